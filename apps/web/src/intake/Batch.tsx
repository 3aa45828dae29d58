/** One batch: how the file is read, what its columns are, what it would do, and what it did. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useIsMutating, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import { Link, useNavigate, useParams } from 'react-router';
import { z } from 'zod';
import { useAddress } from '../api/address';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Removal } from '../design/Removal';
import { bytes, count, plural } from '../design/words';
import { Columns } from './Columns';
import { DryRun } from './DryRun';
import { FirstRows } from './FirstRows';
import { batchWork } from './work';

const busy = new Set<BatchAnswer['state']>(['trying', 'applying', 'undoing']);

const tabs = ['columns', 'first', 'rows'] as const;
type TabName = (typeof tabs)[number];
const batchAddress = z.object({ tab: z.enum(tabs).optional() });

export function Batch() {
  const id = Number(useParams().id);
  const batch = useQuery({
    ...ask(api.intake.batch, { params: { id } }),
    refetchInterval: ({ state: { data } }) =>
      data && (busy.has(data.state) || (data.state === 'tried' && !data.effect)) ? 900 : false,
  });
  return <Loaded query={batch}>{(data) => <Page batch={data} />}</Loaded>;
}

function Page({ batch }: { batch: BatchAnswer }) {
  const [address, set] = useAddress(batchAddress);
  const queries = useQueryClient();
  const tell = useTell();
  const navigate = useNavigate();
  const params = { id: batch.id };
  const tab = address.tab ?? (batch.state === 'read' || batch.state === 'trying' ? 'columns' : 'rows');
  const show = (to: TabName) => set({ tab: to });
  const keep = (data: BatchAnswer) => {
    queries.setQueryData(keyOf(api.intake.batch, { params: { id: batch.id } }), data);
    void queries.invalidateQueries();
  };
  const tryOut = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: () => call(api.intake.tryOut, { params }),
    onSuccess: (data) => {
      keep(data);
      if (data.state === 'tried') show('rows');
    },
  });
  const again = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: () => call(api.intake.again, { params }),
    onSuccess: async (data) => {
      queries.setQueryData(keyOf(api.intake.batch, { params: { id: data.id } }), data);
      await navigate(`/intake/${data.id}`);
    },
  });
  const cancel = useMutation({ mutationFn: () => call(api.intake.cancel, { params }), onSuccess: keep });
  const apply = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: () => call(api.intake.apply, { params }),
    onSuccess: (data) => {
      keep(data);
      if (data.state === 'applied')
        tell(
          `${isConfirmation(data) ? 'Confirmed' : 'Applied'} ${data.fileName}${data.applyMs === null ? '' : ` in ${(data.applyMs / 1000).toFixed(1)} s`}`,
        );
    },
  });
  const undo = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: () => call(api.intake.undo, { params }),
    onSuccess: ({ batch: data, left }) => {
      keep(data);
      tell(
        left.length > 0
          ? `Undone. Left as it is: ${left.slice(0, 4).join('; ')}`
          : 'Undone: every field is back as it was.',
      );
    },
  });
  // One thing at a time, and what went wrong before is not said of what comes after.
  const isBusy = useIsMutating({ mutationKey: batchWork(batch.id) }) > 0;
  const begin = (work: { mutate: () => void }) => {
    for (const row of [tryOut, apply, undo, again, cancel]) row.reset();
    work.mutate();
  };
  const open = batch.state === 'read' || batch.state === 'tried';
  const error = tryOut.error ?? apply.error ?? undo.error ?? again.error ?? cancel.error ?? batch.error;
  const toApply = toTake(batch) - batch.leftOut;
  const isEmpty = batch.counts !== null && toApply <= 0;
  const isConfirming = isConfirmation(batch);
  return (
    <Box as="section" col grow>
      <Box pad={[3.5, 6, 0]}>
        <Box small muted>
          <Link to="/intake">Intake</Link> · {batch.supplier ?? 'nobody’s yet'} · {bytes(batch.bytes)}
        </Box>
        <Box row gap={3}>
          <Box as="h1" cut grow>
            {batch.fileName}
          </Box>
          {(open || batch.state === 'cancelled') && (
            <Removal
              of={batch.fileName}
              verb="Throw away"
              goes="Nothing of it was applied; the file goes too."
              remove={() => call(api.intake.discard, { params: { id: batch.id } })}
              onDone={() => void navigate('/intake')}
            />
          )}
          {open && (
            <Button
              variant={batch.state === 'read' ? 'contained' : 'outlined'}
              disabled={isBusy || batch.mapFaults.length > 0}
              onClick={() => begin(tryOut)}
            >
              {tryOut.isPending ? 'Trying…' : batch.state === 'read' ? 'Try it: show what would change' : 'Try again'}
            </Button>
          )}
          {batch.state === 'tried' && batch.counts && (
            <Button variant="contained" disabled={isBusy || isEmpty} onClick={() => begin(apply)}>
              {apply.isPending
                ? 'Applying…'
                : isEmpty
                  ? 'Nothing to apply'
                  : isConfirming
                    ? `Confirm ${plural(toApply, 'unchanged row')}`
                    : batch.leftOut > 0
                      ? `Apply ${plural(toApply, 'row')}, leave ${count(batch.leftOut)} out`
                      : `Apply ${plural(newsOf(batch.counts), 'row')}`}
            </Button>
          )}
          {busy.has(batch.state) && (
            <Box as="span" muted role="status">
              {batch.state === 'trying' ? 'Trying every row…' : 'Applying…'} its progress is at the foot of the page.
            </Box>
          )}
          {batch.state === 'applying' && (
            <Button variant="outlined" disabled={cancel.isPending} onClick={() => begin(cancel)}>
              Cancel and undo what was applied
            </Button>
          )}
          {((batch.state === 'applied' && batch.leftOut > 0) ||
            batch.state === 'undone' ||
            batch.state === 'cancelled') && (
            <Button variant="outlined" disabled={isBusy} onClick={() => begin(again)}>
              {batch.leftOut > 0 ? 'Bring in what was picked out' : 'Read it again'}
            </Button>
          )}
          {batch.state === 'applied' && (
            <Button variant="outlined" disabled={isBusy} onClick={() => begin(undo)}>
              {undo.isPending ? 'Undoing…' : 'Undo this batch'}
            </Button>
          )}
        </Box>
        <Summary batch={batch} />
        {batch.mapFaults.map((fault) => (
          <ProblemBox key={fault} title="It cannot be tried yet" error={fault} />
        ))}
        {error && <ProblemBox error={error} />}
        <Tabs value={tab} onChange={(_, to: TabName) => show(to)}>
          <Tab value="columns" label="Reading and columns" />
          {batch.kind !== 'round-trip' && <Tab value="first" label="First rows" />}
          <Tab value="rows" label={rowsTab(batch)} disabled={!batch.counts} />
        </Tabs>
      </Box>
      {tab === 'columns' ? (
        <Columns batch={batch} canEdit={open} onChange={keep} />
      ) : tab === 'first' ? (
        <FirstRows batch={batch} />
      ) : (
        <DryRun batch={batch} onChange={keep} />
      )}
    </Box>
  );
}

/** Rows that say something of goods, refused ones aside. */
const toTake = ({ counts }: BatchAnswer) => (counts ? newsOf(counts) + counts.unchanged : 0);

const newsOf = ({ created, joins, changed }: NonNullable<BatchAnswer['counts']>) => created + joins + changed;

/** Applied, a list that changes nothing still says that the supplier has these goods. */
const isConfirmation = ({ counts }: BatchAnswer) => counts !== null && newsOf(counts) === 0;

function rowsTab({ counts, state }: BatchAnswer): string {
  if (!counts) return 'Dry run (not yet)';
  return state === 'applied' || state === 'applying' ? 'What it did, row by row' : 'Dry run';
}

function Summary({ batch }: { batch: BatchAnswer }) {
  const { counts } = batch;
  if (batch.state === 'undone')
    return (
      <Box as="p" muted>
        This batch was applied and undone. It changes nothing any more.
        {batch.leftBehind.length > 0 &&
          ` Left as it is, because a person changed it since: ${batch.leftBehind.slice(0, 6).join('; ')}${batch.leftBehind.length > 6 ? ` and ${batch.leftBehind.length - 6} more` : ''}.`}
      </Box>
    );
  if (batch.state === 'cancelled')
    return (
      <Box as="p" muted>
        Applying was cancelled, and what had been applied was taken back.
      </Box>
    );
  if (!counts)
    return (
      <Box as="p" muted>
        Look at the columns below, correct what is wrong, then try it. Nothing is changed by trying.
      </Box>
    );
  const verb = batch.state === 'applied' ? '' : 'would be ';
  const isAllRefused = batch.state === 'tried' && counts.refused > 0 && toTake(batch) === 0;
  return (
    <p>
      <b>{count(counts.created)}</b> {verb}created ·{' '}
      {counts.joins > 0 && (
        <>
          <b>{count(counts.joins)}</b> {batch.state === 'applied' ? 'joined' : 'would join'} goods we have ·{' '}
        </>
      )}
      <b>{count(counts.changed)}</b> {verb}changed · <b>{count(counts.unchanged)}</b> unchanged ·{' '}
      <b>{count(counts.refused)}</b> refused
      {counts.dropped > 0 && (
        <>
          {' '}
          · <b>{count(counts.dropped)}</b> no longer in the list
        </>
      )}
      {counts.lostCells > 0 && (
        <Box as="span" muted>
          {' '}
          · {plural(counts.lostCells, 'cell')} without a usable value
        </Box>
      )}
      {isAllRefused && (
        <Box as="span" muted>
          {' '}
          – correct {counts.refused === 1 ? 'it' : 'some of them'} below, and there is something to apply
        </Box>
      )}
    </p>
  );
}
