/** One batch: how the file is read, what its columns are, what it would do, and what it did. */
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import { Link, useParams, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { bytes, count, plural } from '../design/words';
import { Columns } from './Columns';
import { DryRun } from './DryRun';

export function Batch() {
  const id = Number(useParams().id);
  const batch = useQuery({
    queryKey: ['batch', id],
    queryFn: () => call(api.intake.batch, { params: { id } }),
    refetchInterval: (query) => (query.state.data?.state === 'applying' ? 700 : false),
  });
  return <Loaded query={batch}>{(data) => <Page batch={data} />}</Loaded>;
}

function Page({ batch }: { batch: BatchAnswer }) {
  const [search, setSearch] = useSearchParams();
  const queries = useQueryClient();
  const tell = useTell();
  const params = { id: batch.id };
  const tab = search.get('tab') ?? (batch.state === 'read' ? 'columns' : 'rows');
  const show = (to: string) => setSearch({ tab: to });
  const keep = (data: BatchAnswer) => {
    queries.setQueryData(['batch', batch.id], data);
    void queries.invalidateQueries();
  };
  const tryOut = useMutation({
    mutationFn: () => call(api.intake.tryOut, { params }),
    onSuccess: (data) => {
      keep(data);
      show('rows');
    },
  });
  const apply = useMutation({
    mutationFn: () => call(api.intake.apply, { params }),
    onSuccess: (data) => {
      keep(data);
      tell(`Applied ${data.fileName}${data.applyMs === null ? '' : ` in ${(data.applyMs / 1000).toFixed(1)} s`}`);
    },
  });
  const undo = useMutation({
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
  const open = batch.state === 'read' || batch.state === 'tried';
  const error = tryOut.error ?? apply.error ?? undo.error;
  return (
    <section className="grow col">
      <div style={{ padding: '14px 24px 0' }}>
        <div className="muted small">
          <Link to="/intake">Intake</Link> · {batch.supplier} · {bytes(batch.bytes)}
        </div>
        <div className="row" style={{ gap: 12 }}>
          <h1 className="grow cut">{batch.fileName}</h1>
          {open && (
            <Button
              variant={batch.state === 'read' ? 'contained' : 'outlined'}
              disabled={tryOut.isPending || batch.mapFaults.length > 0}
              onClick={() => tryOut.mutate()}
            >
              {tryOut.isPending ? 'Trying…' : batch.state === 'read' ? 'Try it: show what would change' : 'Try again'}
            </Button>
          )}
          {batch.state === 'tried' && batch.counts && (
            <Button variant="contained" disabled={apply.isPending} onClick={() => apply.mutate()}>
              {apply.isPending ? 'Applying…' : `Apply ${plural(batch.counts.created + batch.counts.changed, 'row')}`}
            </Button>
          )}
          {batch.state === 'applied' && (
            <Button variant="outlined" disabled={undo.isPending} onClick={() => undo.mutate()}>
              {undo.isPending ? 'Undoing…' : 'Undo this batch'}
            </Button>
          )}
        </div>
        <Summary batch={batch} />
        {batch.mapFaults.map((fault) => (
          <ProblemBox key={fault} error={fault} />
        ))}
        {error && <ProblemBox error={error} />}
        <Tabs value={tab} onChange={(_, to: string) => show(to)}>
          <Tab value="columns" label="Reading and columns" />
          <Tab value="rows" label={batch.counts ? 'Dry run' : 'Dry run (not yet)'} disabled={!batch.counts} />
        </Tabs>
      </div>
      {tab === 'columns' ? <Columns batch={batch} canEdit={open} onChange={keep} /> : <DryRun batch={batch} />}
    </section>
  );
}

function Summary({ batch }: { batch: BatchAnswer }) {
  const { counts } = batch;
  if (batch.state === 'undone')
    return <p className="muted">This batch was applied and undone. It changes nothing any more.</p>;
  if (!counts)
    return (
      <p className="muted">
        Look at the columns below, correct what is wrong, then try it. Nothing is changed by trying.
      </p>
    );
  const verb = batch.state === 'applied' ? '' : 'would be ';
  return (
    <p>
      <b>{count(counts.created)}</b> {verb}created · <b>{count(counts.changed)}</b> {verb}changed ·{' '}
      <b>{count(counts.unchanged)}</b> unchanged · <b>{count(counts.refused)}</b> refused
      {counts.lostCells > 0 && (
        <span className="muted"> · {plural(counts.lostCells, 'cell')} without a usable value</span>
      )}
    </p>
  );
}
