/** Goods that are fetched: a shop's catalogue by a schedule or when asked, and one item of a channel's catalogue. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type PlaceAnswer, type PullAnswer, api } from '@velvet-shelf/contract';
import { type ReactNode, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Field, Form, useFields } from '../design/Form';
import { z } from 'zod';
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

/** “When asked” is the choice without a schedule. */
const pullFields = api.intake.savePull.body.extend({
  schedule: z.string().transform((text) => text || null),
});

function PullForm({ pull, onDone }: { pull: PullAnswer | undefined; onDone: () => void }) {
  const suppliers = useQuery(ask(api.company.suppliers));
  const queries = useQueryClient();
  const form = useFields(pullFields, {
    id: pull?.id,
    name: pull?.name ?? '',
    address: pull?.address ?? '',
    supplierId: pull?.supplierId,
    schedule: pull?.schedule ?? '',
  });
  const save = useMutation({
    mutationFn: (body: z.output<typeof pullFields>) => call(api.intake.savePull, { body }),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: keyOf(api.intake.pulls) });
      onDone();
    },
  });
  const schedule = form.watch('schedule');
  const { control } = form;
  return (
    <Form
      form={form}
      onSend={(body) => save.mutate(body)}
      onCancel={onDone}
      error={save.error}
      col
      gap={2}
      pad={[2, 0]}
    >
      <Field control={control} name="name" label="Name" required />
      <Field
        control={control}
        name="address"
        label="Address of its list of goods"
        helperText="A file (CSV, XLSX, JSON, XML …), or a shop’s catalogue page by page"
        required
      />
      <Field
        control={control}
        name="supplierId"
        label="Supplier"
        required
        options={(suppliers.data?.items ?? []).map(({ id, name }) => [id, name])}
      />
      <Field
        control={control}
        name="schedule"
        label="When"
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        options={[
          ...schedules,
          ...(schedules.some(([text]) => text === schedule) ? [] : [[schedule, ownSchedule] as const]),
        ]}
      />
      <Button type="submit" variant="contained" disabled={save.isPending}>
        Save
      </Button>
    </Form>
  );
}

const itemBody = api.intake.fetchItem.body;

/** One item that a channel describes already; what it lacks is added in the dry run. */
function OneItem() {
  const places = useQuery(ask(api.channels.places));
  // Places of one channel have one catalogue between them.
  const channels = (places.data?.items ?? []).filter(
    (place, i, all) => all.findIndex(({ channelName }) => channelName === place.channelName) === i,
  );
  return channels[0] && <ItemForm channels={channels} first={channels[0].id} />;
}

function ItemForm({ channels, first }: { channels: PlaceAnswer[]; first: number }) {
  const navigate = useNavigate();
  const form = useFields(itemBody, { placeId: first, identifier: '' });
  const fetchIt = useMutation({
    mutationFn: (body: z.output<typeof itemBody>) => call(api.intake.fetchItem, { body }),
    onSuccess: ({ id }) => navigate(`/intake/${id}`),
  });
  const { control } = form;
  return (
    <Form form={form} onSend={(body) => fetchIt.mutate(body)} error={fetchIt.error} above={3.5}>
      <h3>One item by its identifier</h3>
      <Box as="p" small muted around={[0.5, 0, 1.5]}>
        From {channels.length > 1 ? 'a channel' : channels[0]?.channelName}’s own catalogue. You add SKU, cost and
        category in the dry run.
      </Box>
      {channels.length > 1 && (
        <Field
          control={control}
          name="placeId"
          label="Channel"
          fullWidth
          sx={{ mb: 1 }}
          options={channels.map(({ id, channelName }) => [id, channelName])}
        />
      )}
      <Box row gap={1.5} align="start">
        <Field control={control} name="identifier" placeholder="GTIN" says="Identifier of the item" sx={{ flex: 1 }} />
        <Button type="submit" variant="outlined" disabled={fetchIt.isPending}>
          Fetch
        </Button>
      </Box>
    </Form>
  );
}
