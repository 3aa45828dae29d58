/** Whose word counts: the general order of sources, and per attribute a policy and an order of its own, by drag and drop or keys. */
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
import { CSS } from '@dnd-kit/utilities';
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
    <div className="grow scroll" style={{ padding: '14px 24px' }}>
      {save.error && <ProblemBox error={save.error} />}
      <Loaded query={trust}>
        {(data) => (
          <>
            <div className="row wrap" style={{ gap: '6px 16px', marginBottom: 14 }}>
              <b style={{ whiteSpace: 'nowrap' }}>The general order</b>
              <Ranking
                label="General order of sources"
                suppliers={data.suppliers}
                order={data.suppliers.map((supplier) => supplier.id)}
                onOrder={(ranking) => save.mutate({ ranking })}
              />
              <span className="muted small">
                Drag, or focus one and press space, then the arrows. Your own edits always win.
              </span>
            </div>
            <table className="plain" style={{ background: 'var(--card)' }}>
              <thead>
                <tr>
                  <th>Attribute</th>
                  <th className="num">In dispute</th>
                  <th style={{ width: 220 }}>Who wins</th>
                  <th>In this order</th>
                </tr>
              </thead>
              <tbody>
                {[...data.items]
                  .sort((a, b) => b.disputed - a.disputed)
                  .map((row) => (
                    <tr key={row.attribute}>
                      <td>
                        {row.label} <span className="muted small">{row.group}</span>
                      </td>
                      <td className="num">{row.disputed > 0 ? row.disputed : ''}</td>
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
                          <span className="muted small">ties go by the general order</span>
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
                          <div className="row">
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
                          </div>
                        )}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </>
        )}
      </Loaded>
    </div>
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
      <div
        ref={setNodeRef}
        className="source"
        style={{ transform: CSS.Translate.toString(transform), transition }}
        {...attributes}
        {...listeners}
      >
        <b>{place}</b>
        {name}
      </div>
    </div>
  );
}
