/** Whose word counts: the general order of sources, and per attribute a policy and an order of its own, by drag and drop or keys. */
import { Box } from '../design/Box';
import { Moved } from '../design/Moved';
import {
  type Announcements,
  DndContext,
  type DragEndEvent,
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
  horizontalListSortingStrategy,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type TrustRow, api } from '@velvet-shelf/contract';
import { call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { plural } from '../design/words';

type Supplier = { id: number; name: string };

const policyWords: Record<TrustRow['policy'], string> = {
  ranked: 'the best source in order',
  newest: 'the newest claim',
  lowest: 'the lowest value',
  highest: 'the highest value',
  longest: 'the longest text',
};

export function Trust() {
  const trust = useQuery({ queryKey: ['trust'], queryFn: () => call(api.matching.trust) });
  const queries = useQueryClient();
  const tell = useTell();
  const save = useMutation({
    mutationFn: (body: { attribute?: string; policy?: TrustRow['policy']; ranking?: number[] | null }) =>
      call(api.matching.setTrust, { body }),
    onSuccess: ({ changed }) => {
      tell(changed === 0 ? 'Saved; no product changes by it' : `Saved; ${plural(changed, 'product')} changed`);
      // Pending until the rows say it: what is chosen next is chosen from what holds now.
      return queries.invalidateQueries();
    },
  });
  return (
    <Box scroll grow pad={[3.5, 6]}>
      {save.error && <ProblemBox error={save.error} />}
      <Loaded query={trust}>
        {(data) => (
          <>
            <Box wrap row gap={[1.5, 4]} below={3.5}>
              <Box as="b" oneLine>
                The general order
              </Box>
              <Ranking
                label="General order of sources"
                suppliers={data.suppliers}
                order={data.suppliers.map((supplier) => supplier.id)}
                onOrder={(ranking) => save.mutate({ ranking })}
              />
              <Box as="span" small muted>
                Drag, or focus one and press space, then the arrows. Your own edits always win.
              </Box>
            </Box>
            <Box as="table" surface="card" className="plain">
              <thead>
                <tr>
                  <th>Attribute</th>
                  <Box as="th" num>
                    In dispute
                  </Box>
                  <Box as="th" wide={220}>
                    Who wins
                  </Box>
                  <th>In this order</th>
                </tr>
              </thead>
              <tbody>
                {[...data.items]
                  .sort((a, b) => b.disputed - a.disputed)
                  .map((row) => (
                    <tr key={row.attribute}>
                      <td>
                        {row.label}{' '}
                        <Box as="span" small muted>
                          {row.group}
                        </Box>
                      </td>
                      <Box as="td" num>
                        {row.disputed > 0 ? row.disputed : ''}
                      </Box>
                      <td>
                        <Select
                          value={row.policy}
                          fullWidth
                          disabled={save.isPending}
                          sx={{ '& .MuiSelect-select': { py: 0.4 } }}
                          inputProps={{ 'aria-label': `Who wins for ${row.label}` }}
                          onChange={(event) => save.mutate({ attribute: row.attribute, policy: event.target.value })}
                        >
                          {Object.entries(policyWords).map(([policy, words]) => (
                            <MenuItem key={policy} value={policy}>
                              {words}
                            </MenuItem>
                          ))}
                        </Select>
                      </td>
                      <td>
                        {row.policy !== 'ranked' ? (
                          <Box as="span" small muted>
                            ties go by the general order
                          </Box>
                        ) : row.ranking === null ? (
                          <Button
                            color="secondary"
                            sx={{ p: 0 }}
                            disabled={save.isPending}
                            onClick={() =>
                              save.mutate({
                                attribute: row.attribute,
                                ranking: data.suppliers.map((supplier) => supplier.id),
                              })
                            }
                          >
                            An order of its own
                          </Button>
                        ) : (
                          <Box row>
                            <Ranking
                              label={`Order of sources for ${row.label}`}
                              suppliers={data.suppliers}
                              order={row.ranking}
                              onOrder={(ranking) => save.mutate({ attribute: row.attribute, ranking })}
                            />
                            <Button
                              color="secondary"
                              sx={{ p: 0 }}
                              onClick={() => save.mutate({ attribute: row.attribute, ranking: null })}
                            >
                              as in general
                            </Button>
                          </Box>
                        )}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </Box>
          </>
        )}
      </Loaded>
    </Box>
  );
}

function Ranking({
  label,
  suppliers,
  order,
  onOrder,
}: {
  label: string;
  suppliers: Supplier[];
  order: number[];
  onOrder: (order: number[]) => void;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const whole = [...order, ...suppliers.map((supplier) => supplier.id).filter((id) => !order.includes(id))];
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    onOrder(arrayMove(whole, whole.indexOf(Number(active.id)), whole.indexOf(Number(over.id))));
  };
  const nameOf = (id: UniqueIdentifier) => suppliers.find((supplier) => supplier.id === id)?.name ?? '';
  const placeOf = (id: UniqueIdentifier) => `place ${whole.indexOf(Number(id)) + 1} of ${whole.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${nameOf(active.id)} is picked up from ${placeOf(active.id)}`,
    onDragOver: ({ active, over }) =>
      over ? `${nameOf(active.id)} is over ${placeOf(over.id)}` : `${nameOf(active.id)} is over no place`,
    onDragEnd: ({ active, over }) => (over ? `${nameOf(active.id)} is put at ${placeOf(over.id)}` : undefined),
    onDragCancel: ({ active }) => `${nameOf(active.id)} stays at ${placeOf(active.id)}`,
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{ announcements }}
    >
      <SortableContext items={whole} strategy={horizontalListSortingStrategy}>
        <div className="rank" role="list" aria-label={label}>
          {whole.map((id, i) => (
            <Source key={id} id={id} place={i + 1} name={nameOf(id)} />
          ))}
        </div>
      </SortableContext>
    </DndContext>
  );
}

function Source({ id, place, name }: { id: number; place: number; name: string }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id });
  return (
    <div role="listitem">
      <Moved
        ref={setNodeRef}
        className="source"
        transform={transform}
        transition={transition}
        {...attributes}
        {...listeners}
      >
        <b>{place}</b>
        {name}
      </Moved>
    </div>
  );
}
