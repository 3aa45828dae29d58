/** Things in an order that is changed by drag and drop, or by keys: Space picks one up, arrows move it, Space puts it down. */
import {
  type Announcements,
  DndContext,
  type DragEndEvent,
  type DraggableAttributes,
  KeyboardSensor,
  PointerSensor,
  type UniqueIdentifier,
  closestCenter,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  arrayMove,
  sortableKeyboardCoordinates,
  rectSortingStrategy,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import type { ReactNode } from 'react';
import { Moved } from './Moved';

/** What an element has that a thing is dragged by. */
export type Handle = DraggableAttributes;

interface OrderedProps<Id extends string | number> {
  label: string;
  ids: readonly Id[];
  nameOf: (id: Id) => string;
  /** Beside each other, in one line or several, not below. */
  isAcross?: boolean;
  className?: string;
  onOrder: (ids: Id[]) => void;
  /** `place` from 1. */
  children: (id: Id, place: number, handle: Handle) => ReactNode;
}

export function Ordered<Id extends string | number>({
  label,
  ids,
  nameOf,
  isAcross = false,
  className,
  onOrder,
  children,
}: OrderedProps<Id>) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const placeIn = (id: UniqueIdentifier) => ids.findIndex((each) => each === id);
  const say = (id: UniqueIdentifier) => {
    const held = ids[placeIn(id)];
    return held === undefined ? '' : nameOf(held);
  };
  const sayPlace = (id: UniqueIdentifier) => `place ${placeIn(id) + 1} of ${ids.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${say(active.id)} is picked up from ${sayPlace(active.id)}`,
    onDragOver: ({ active, over }) =>
      over ? `${say(active.id)} is over ${sayPlace(over.id)}` : `${say(active.id)} is over no place`,
    onDragEnd: ({ active, over }) => (over ? `${say(active.id)} is put at ${sayPlace(over.id)}` : undefined),
    onDragCancel: ({ active }) => `${say(active.id)} stays at ${sayPlace(active.id)}`,
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) onOrder(arrayMove([...ids], placeIn(active.id), placeIn(over.id)));
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{ announcements }}
    >
      <SortableContext items={[...ids]} strategy={isAcross ? rectSortingStrategy : verticalListSortingStrategy}>
        <div role="list" aria-label={label} className={className}>
          {ids.map((id, i) => (
            <Item key={id} id={id}>
              {(handle) => children(id, i + 1, handle)}
            </Item>
          ))}
        </div>
      </SortableContext>
    </DndContext>
  );
}

function Item({ id, children }: { id: UniqueIdentifier; children: (handle: Handle) => ReactNode }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return (
    <Moved ref={setNodeRef} role="listitem" transform={transform} transition={transition}>
      {children({ ...attributes, ...listeners })}
    </Moved>
  );
}
