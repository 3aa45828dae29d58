/** What happened to a product, newest first; any moment of it against any later one, and values put back. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Difference, type HistoryEntry, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { clock, plural, sayBecoming } from '../design/words';

export function History({ id }: { id: number }) {
  const history = useQuery(ask(api.catalog.history, { params: { id } }));
  const [from, setFrom] = useState<number>();
  return (
    <Loaded query={history}>
      {({ items }) => (
        <>
          {from !== undefined && (
            <Compared key={from} id={id} from={from} items={items} onClose={() => setFrom(undefined)} />
          )}
          {items.map((row, i) => (
            <Box pad={[2, 0]} line="bottom" textSize={12.5} key={row.id}>
              <Box row>
                <Box grow struck={row.undone}>
                  {row.words}
                </Box>
                {i > 0 && (
                  <Button
                    color="secondary"
                    sx={{ p: 0 }}
                    aria-label={`Compare with what was after ${row.words}, ${clock(row.at)}`}
                    onClick={() => setFrom(row.id)}
                  >
                    Compare
                  </Button>
                )}
              </Box>
              <Box small muted>
                {clock(row.at)} · {row.actor}
              </Box>
              {row.fields.slice(0, 8).map((field) => (
                <Box cut key={field.field}>
                  {field.field}:{' '}
                  <Box as="s" muted>
                    {field.before ?? 'empty'}
                  </Box>{' '}
                  → {field.after ?? 'empty'}
                </Box>
              ))}
            </Box>
          ))}
        </>
      )}
    </Loaded>
  );
}

/** The product as it was after one action, against after a later one, or now. */
function Compared({
  id,
  from,
  items,
  onClose,
}: {
  id: number;
  from: number;
  items: readonly HistoryEntry[];
  onClose: () => void;
}) {
  const [to, setTo] = useState('');
  const at = items.findIndex((row) => row.id === from);
  const compared = useQuery(
    ask(api.catalog.compare, { params: { id }, query: { from, ...(to === '' ? {} : { to: Number(to) }) } }),
  );
  return (
    <Box as="section" surface="card" rounded pad={[2, 1]} below={3} aria-label="Two moments">
      <Box row wrap below={2}>
        <Box grow>
          <b>After “{items[at]?.words}”</b>
          <Box small muted>
            {clock(items[at]?.at ?? '')}
          </Box>
        </Box>
        <Select
          value={to}
          displayEmpty
          onChange={(event) => setTo(event.target.value)}
          inputProps={{ 'aria-label': 'Compared with' }}
        >
          <MenuItem value="">now</MenuItem>
          {items.slice(1, at).map((row) => (
            <MenuItem key={row.id} value={String(row.id)}>
              after “{row.words}”, {clock(row.at)}
            </MenuItem>
          ))}
        </Select>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </Box>
      <Loaded query={compared}>
        {({ items: differences }) =>
          differences.length === 0 ? (
            <Box muted>Nothing differs.</Box>
          ) : (
            <Differences id={id} from={from} differences={differences} isNow={to === ''} />
          )
        }
      </Loaded>
    </Box>
  );
}

function Differences({
  id,
  from,
  differences,
  isNow,
}: {
  id: number;
  from: number;
  differences: readonly Difference[];
  isNow: boolean;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const putBack = useMutation({
    mutationFn: (which: readonly Difference[]) =>
      call(api.catalog.putBack, {
        params: { id },
        body: { from, fields: which.map(({ field, now }) => ({ field, madeAgainst: now ?? null })) },
      }),
    onSuccess: (effect, which) => {
      void queries.invalidateQueries();
      tell(`Put ${plural(which.length, 'value')} back; ${sayBecoming(effect, true)}`);
    },
  });
  const able = differences.filter(({ now }) => now !== undefined);
  return (
    <>
      <DataTable
        label="What differs"
        rows={differences}
        keyOf={({ field }) => field}
        columns={[
          { head: 'What', cell: ({ label }) => label },
          { head: 'Then', cell: ({ before }) => <Value text={before} /> },
          { head: isNow ? 'Now' : 'Later', cell: ({ after }) => <Value text={after} /> },
          {
            head: '',
            id: 'Put back',
            cell: (difference) =>
              isNow &&
              difference.now !== undefined && (
                <Button
                  sx={{ p: 0 }}
                  disabled={putBack.isPending}
                  aria-label={`Put ${difference.label} back`}
                  onClick={() => putBack.mutate([difference])}
                >
                  Put back
                </Button>
              ),
          },
        ]}
      />
      {isNow && able.length > 1 && (
        <Button variant="outlined" disabled={putBack.isPending} onClick={() => putBack.mutate(able)}>
          Put all {able.length} back
        </Button>
      )}
      {putBack.error && <ProblemBox error={putBack.error} title="Nothing was put back" />}
    </>
  );
}

/** Signs of a value that are shown beside the other. */
const mostShown = 140;

const Value = ({ text }: { text: string | null }) => (
  <Box small maxWide={112} title={text ?? ''} muted={text === null}>
    {text === null ? 'empty' : text.length > mostShown ? `${text.slice(0, mostShown)}…` : text}
  </Box>
);
