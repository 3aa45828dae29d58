/** Whose word counts: the general order of sources, and per attribute a policy and an order of its own, by drag and drop or keys. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type TrustRow, api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { DataTable } from '../design/DataTable';
import { Ordered } from '../design/Ordered';
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
  const trust = useQuery(ask(api.matching.trust));
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
            <DataTable
              label="Whose word counts, attribute by attribute"
              look={{ surface: 'card' }}
              rows={[...data.items].sort((a, b) => b.disputed - a.disputed)}
              keyOf={({ attribute }) => attribute}
              columns={[
                {
                  head: 'Attribute',
                  sortBy: ({ label }) => label,
                  cell: ({ label, group }) => (
                    <>
                      {label}{' '}
                      <Box as="span" small muted>
                        {group}
                      </Box>
                    </>
                  ),
                },
                {
                  head: 'In dispute',
                  sortBy: ({ disputed }) => disputed,
                  cell: ({ disputed }) => (disputed > 0 ? disputed : ''),
                  look: { num: true },
                },
                {
                  head: 'Who wins',
                  headLook: { wide: 220 },
                  sortBy: ({ policy }) => policyWords[policy],
                  cell: (row) => (
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
                  ),
                },
                {
                  head: 'In this order',
                  cell: (row) => (
                    <OwnOrder
                      row={row}
                      suppliers={data.suppliers}
                      busy={save.isPending}
                      onOrder={(ranking) => save.mutate({ attribute: row.attribute, ranking })}
                    />
                  ),
                },
              ]}
            />
          </>
        )}
      </Loaded>
    </Box>
  );
}

/** The order of sources for one attribute: the general one, or its own. */
function OwnOrder({
  row,
  suppliers,
  busy,
  onOrder,
}: {
  row: TrustRow;
  suppliers: Supplier[];
  busy: boolean;
  onOrder: (ranking: number[] | null) => void;
}) {
  if (row.policy !== 'ranked')
    return (
      <Box as="span" small muted>
        ties go by the general order
      </Box>
    );
  if (row.ranking === null)
    return (
      <Button color="secondary" sx={{ p: 0 }} disabled={busy} onClick={() => onOrder(suppliers.map(({ id }) => id))}>
        An order of its own
      </Button>
    );
  return (
    <Box row>
      <Ranking
        label={`Order of sources for ${row.label}`}
        suppliers={suppliers}
        order={row.ranking}
        onOrder={onOrder}
      />
      <Button color="secondary" sx={{ p: 0 }} onClick={() => onOrder(null)}>
        as in general
      </Button>
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
  const whole = [...order, ...suppliers.map((supplier) => supplier.id).filter((id) => !order.includes(id))];
  const nameOf = (id: number) => suppliers.find((supplier) => supplier.id === id)?.name ?? '';
  return (
    <Ordered label={label} ids={whole} nameOf={nameOf} isAcross className="rank" onOrder={onOrder}>
      {(id, place, handle) => (
        <div className="source" {...handle}>
          <b>{place}</b>
          {nameOf(id)}
        </div>
      )}
    </Ordered>
  );
}
