/** Goods that are fetched: a shop's catalogue by a schedule or when asked, and one item of a channel's catalogue. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type PullAnswer, api } from '@velvet-shelf/contract';
import { type ReactNode, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Loaded, ProblemBox } from '../design/feedback';
import { clock, count } from '../design/words';

export function Fetching() {
  const pulls = useQuery({
    ...ask(api.intake.pulls),
    refetchInterval: ({ state: { data } }) => (data?.items.some((row) => row.running) ? 800 : 30_000),
  });
  const [adding, setAdding] = useState(false);
  return (
    <>
      <Box as="h2" around={[4.5, 0, 1.5]}>
        Fetched
      </Box>
      <Loaded query={pulls}>
        {(data) => (
          <>
            {data.items.map((row) => (
              <Pull key={row.id} pull={row} />
            ))}
          </>
        )}
      </Loaded>
      {adding ? (
        <PullForm pull={undefined} onDone={() => setAdding(false)} />
      ) : (
        <Button color="secondary" sx={{ p: 0 }} onClick={() => setAdding(true)}>
          + Source to fetch
        </Button>
      )}
      <OneItem />
    </>
  );
}

function Pull({ pull }: { pull: PullAnswer }) {
  const queries = useQueryClient();
  const [editing, setEditing] = useState(false);
  const start = useMutation({
    mutationFn: () => call(api.intake.startPull, { params: { id: pull.id } }),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf(api.intake.pulls) }),
  });
  const end = useMutation({
    mutationFn: (how: 'cancelPull' | 'removePull') => call(api.intake[how], { params: { id: pull.id } }),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf(api.intake.pulls) }),
  });
  const problem = start.error ?? end.error ?? pull.lastError;
  return (
    <Box surface="card" framed pad={[2, 3]} below={2}>
      <Box row>
        <Box as="b" grow>
          {pull.name}
        </Box>
        <Button variant="outlined" disabled={pull.running || start.isPending} onClick={() => start.mutate()}>
          {pull.running
            ? `Pulling… ${count(pull.fetched)}`
            : pull.fetched > 0
              ? `Go on after ${count(pull.fetched)}`
              : 'Pull now'}
        </Button>
      </Box>
      <Box small muted breaks>
        {whenWords(pull.schedule)}
        {pull.nextAt && `, next ${clock(pull.nextAt)}`}
        {pull.lastAt && ` · last ${clock(pull.lastAt)}`}
        {pull.lastBatchId && (
          <>
            {' · '}
            <Link to={`/intake/${pull.lastBatchId}`}>its batch</Link>
          </>
        )}{' '}
        <Small onClick={() => setEditing(!editing)}>{editing ? 'close' : 'change'}</Small>
        {(pull.running || pull.fetched > 0) && (
          <>
            {' · '}
            <Small onClick={() => end.mutate('cancelPull')}>stop, keep nothing</Small>
          </>
        )}
      </Box>
      {problem && <ProblemBox title={end.error ? 'Nothing was changed' : 'It could not be pulled'} error={problem} />}
      {editing && (
        <>
          <PullForm pull={pull} onDone={() => setEditing(false)} />
          <Small onClick={() => end.mutate('removePull')}>Pull from it no more; what was read in stays</Small>
        </>
      )}
    </Box>
  );
}

function Small({ children, onClick }: { children: ReactNode; onClick: () => void }) {
  return (
    <Button color="secondary" size="small" sx={{ p: 0, minWidth: 0, fontSize: 11.5 }} onClick={onClick}>
      {children}
    </Button>
  );
}

/** A schedule that is none of ours to choose from was set by a program; its line says nothing to a person. */
const ownSchedule = 'by a schedule of its own';
const whenWords = (schedule: string | null) =>
  schedules.find(([text]) => text === (schedule ?? ''))?.[1] ?? ownSchedule;

const schedules: [string, string][] = [
  ['', 'when asked'],
  ['0 * * * *', 'every hour'],
  ['0 5 * * *', 'every day at 5 (UTC)'],
  ['0 5 * * 1', 'Mondays at 5 (UTC)'],
];

function PullForm({ pull, onDone }: { pull: PullAnswer | undefined; onDone: () => void }) {
  const suppliers = useQuery(ask(api.intake.suppliers));
  const queries = useQueryClient();
  const [wish, setWish] = useState({
    name: pull?.name ?? '',
    address: pull?.address ?? '',
    supplierId: pull?.supplierId ?? 0,
    schedule: pull?.schedule ?? '',
  });
  const save = useMutation({
    mutationFn: () => call(api.intake.savePull, { body: { ...wish, id: pull?.id, schedule: wish.schedule || null } }),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: keyOf(api.intake.pulls) });
      onDone();
    },
  });
  const set = (change: Partial<typeof wish>) => setWish((now) => ({ ...now, ...change }));
  return (
    <Box
      as="form"
      col
      gap={2}
      pad={[2, 0]}

      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      {save.error && <ProblemBox error={save.error} />}
      <TextField label="Name" required value={wish.name} onChange={(event) => set({ name: event.target.value })} />
      <TextField
        label="Address of its list of goods"
        helperText="A file (CSV, XLSX, JSON, XML …), or a shop’s catalogue page by page"
        required
        value={wish.address}
        onChange={(event) => set({ address: event.target.value })}
      />
      <TextField
        select
        label="Supplier"
        required
        value={wish.supplierId || ''}
        onChange={(event) => set({ supplierId: Number(event.target.value) })}
      >
        {(suppliers.data?.items ?? []).map((supplier) => (
          <MenuItem key={supplier.id} value={supplier.id}>
            {supplier.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="When"
        value={wish.schedule}
        onChange={(event) => set({ schedule: event.target.value })}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        {[
          ...schedules,
          ...(schedules.some(([text]) => text === wish.schedule) ? [] : [[wish.schedule, ownSchedule] as const]),
        ].map(([value, words]) => (
          <MenuItem key={value} value={value}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      <Button type="submit" variant="contained" disabled={save.isPending}>
        Save
      </Button>
    </Box>
  );
}

/** One item that a channel describes already; what it lacks is added in the dry run. */
function OneItem() {
  const places = useQuery(ask(api.channels.places));
  const navigate = useNavigate();
  const [identifier, setIdentifier] = useState('');
  // Places of one channel have one catalogue between them.
  const channels = (places.data?.items ?? []).filter(
    (place, i, all) => all.findIndex(({ channelName }) => channelName === place.channelName) === i,
  );
  const [chosen, setChosen] = useState<number>();
  const from = channels.find((channel) => channel.id === chosen) ?? channels[0];
  const fetchIt = useMutation({
    mutationFn: () => call(api.intake.fetchItem, { body: { placeId: from?.id ?? 0, identifier } }),
    onSuccess: ({ id }) => navigate(`/intake/${id}`),
  });
  if (!from) return null;
  return (
    <Box
      as="form"
      above={3.5}

      onSubmit={(event) => {
        event.preventDefault();
        if (identifier.trim() !== '') fetchIt.mutate();
      }}
    >
      <h3>One item by its identifier</h3>
      <Box as="p" small muted around={[0.5, 0, 1.5]}>
        From {channels.length > 1 ? 'a channel' : from.channelName}’s own catalogue. You add SKU, cost and category in
        the dry run.
      </Box>
      {channels.length > 1 && (
        <TextField
          select
          fullWidth
          label="Channel"
          value={from.id}
          onChange={(event) => setChosen(Number(event.target.value))}
          sx={{ mb: 1 }}
        >
          {channels.map((channel) => (
            <MenuItem key={channel.id} value={channel.id}>
              {channel.channelName}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Box row gap={1.5}>
        <TextField
          placeholder="GTIN"
          value={identifier}
          onChange={(event) => setIdentifier(event.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Identifier of the item' } }}
          sx={{ flex: 1 }}
        />
        <Button type="submit" variant="outlined" disabled={fetchIt.isPending}>
          Fetch
        </Button>
      </Box>
      {fetchIt.error && <ProblemBox error={fetchIt.error} />}
    </Box>
  );
}
