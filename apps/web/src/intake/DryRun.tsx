/** What every row would do (or did): filtered, searched, with a reason for each refusal and each lost cell. */
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery } from '@tanstack/react-query';
import { type BatchAnswer, type BatchRowAnswer, api } from '@velvet-shelf/contract';
import { useDeferredValue } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { count } from '../design/words';

const outcomes = ['created', 'changed', 'unchanged', 'refused'] as const;
type Outcome = (typeof outcomes)[number] | 'noted';

export function DryRun({ batch }: { batch: BatchAnswer }) {
  const [params, setParams] = useSearchParams();
  const outcome = (params.get('outcome') ?? undefined) as Outcome | undefined;
  const search = params.get('search') ?? '';
  const asked = useDeferredValue(search);
  const set = (key: string, value: string | undefined) =>
    setParams((now) => {
      const next = new URLSearchParams(now);
      next.set('tab', 'rows');
      if (value) next.set(key, value);
      else next.delete(key);
      return next;
    });
  const rows = useInfiniteQuery({
    queryKey: ['batch-rows', batch.id, batch.state, outcome, asked],
    queryFn: ({ pageParam }) =>
      call(api.intake.rows, {
        params: { id: batch.id },
        query: { outcome, search: asked, cursor: pageParam, limit: 100 },
      }),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next ?? undefined,
  });
  return (
    <div className="grow col" style={{ padding: '10px 24px 0' }}>
      <div className="row" style={{ marginBottom: 8 }}>
        <Chip
          label="All rows"
          variant={outcome === undefined ? 'filled' : 'outlined'}
          onClick={() => set('outcome', undefined)}
        />
        {outcomes.map((one) => (
          <Chip
            key={one}
            label={`${one} ${count(batch.counts?.[one] ?? 0)}`}
            variant={outcome === one ? 'filled' : 'outlined'}
            onClick={() => set('outcome', one)}
          />
        ))}
        <Chip
          label="with notes"
          variant={outcome === 'noted' ? 'filled' : 'outlined'}
          onClick={() => set('outcome', 'noted')}
        />
        <TextField
          placeholder="Find in rows"
          value={search}
          onChange={(event) => set('search', event.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Find in rows' } }}
        />
        {(batch.counts?.refused ?? 0) > 0 && (
          <Button href={`/api/batches/${batch.id}/refused.csv`} sx={{ ml: 'auto' }} color="secondary">
            Download refused rows
          </Button>
        )}
      </div>
      {rows.error && <ProblemBox error={rows.error} />}
      <div className="scroll grow" style={{ background: 'var(--card)' }}>
        <table className="plain">
          <thead>
            <tr>
              <th className="num">Row</th>
              <th>Outcome</th>
              <th>Article number</th>
              <th>What</th>
              <th>What it does</th>
            </tr>
          </thead>
          <tbody>
            {rows.data?.pages.flatMap((page) =>
              page.items.map((row) => <Row key={row.row} row={row} applied={batch.state === 'applied'} />),
            )}
          </tbody>
        </table>
        {rows.hasNextPage && (
          <Button onClick={() => void rows.fetchNextPage()} sx={{ m: 1 }}>
            Show more rows
          </Button>
        )}
        {rows.data?.pages[0]?.items.length === 0 && (
          <p className="muted" style={{ padding: 16 }}>
            No row is like this.
          </p>
        )}
      </div>
    </div>
  );
}

function Row({ row, applied }: { row: BatchRowAnswer; applied: boolean }) {
  return (
    <tr>
      <td className="num">{row.row}</td>
      <td>
        <State is={row.outcome} />
      </td>
      <td>{row.key}</td>
      <td style={{ maxWidth: 330 }}>
        <div className="cut" title={row.title ?? ''}>
          {row.title}
        </div>
      </td>
      <td className="small" style={{ maxWidth: 520 }}>
        {row.reasons.map((reason) => (
          <div key={reason} style={{ color: 'var(--blocked)' }}>
            {reason}
          </div>
        ))}
        {row.outcome === 'created' &&
          (row.joins ? (
            <div>
              {applied ? 'Belongs to' : 'Joins'}{' '}
              <Link to={`/catalog?open=${row.joins.productId}`}>{row.joins.sku ?? row.joins.title}</Link> by{' '}
              {row.joins.by}
            </div>
          ) : (
            <div>A new product, {row.changes.length} fields</div>
          ))}
        {row.outcome === 'changed' &&
          row.changes.slice(0, 6).map((change) => (
            <div key={change.field} className="cut">
              {change.field}: <s className="muted">{change.before ?? 'empty'}</s> → <b>{change.after ?? 'empty'}</b>
            </div>
          ))}
        {row.notes.map((note) => (
          <div key={note.column + note.note} style={{ color: note.lost ? 'var(--blocked)' : 'var(--advice)' }}>
            {note.lost ? '✕' : '≈'} {note.column}: {note.note}
          </div>
        ))}
      </td>
    </tr>
  );
}
