import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type BatchAnswer, type BatchSummary, api } from '@velvet-shelf/contract';
import { type DragEvent, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call, reach } from '../api/call';
import { Loaded, ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { bytes, clock, count } from '../design/words';
import { Fetching } from './Fetching';
import { Warehouses } from '../stock/Warehouses';
import { Suppliers } from './Suppliers';

export function Batches() {
  const batches = useQuery({ queryKey: ['batches'], queryFn: () => call(api.intake.batches) });
  return (
    // The padding is inside what scrolls: a table's head sticks to the edge, with no row above it.
    <section className="grow scroll">
      <div style={{ padding: '18px 24px' }}>
        <h1>Intake</h1>
        <p className="muted" style={{ margin: '2px 0 12px' }}>
          Drop a supplier’s file. You see what it would change before anything is changed, and can take it back after.
        </p>
        <DropBox />
        <div className="row" style={{ gap: 24, alignItems: 'flex-start', marginTop: 20 }}>
          <div className="grow">
            <h2 style={{ marginBottom: 6 }}>Batches</h2>
            <Loaded query={batches}>{(data) => <BatchTable items={data.items} />}</Loaded>
          </div>
          <div style={{ width: 352 }}>
            <Suppliers />
            <Fetching />
            <Warehouses />
          </div>
        </div>
      </div>
    </section>
  );
}

async function sendFile(file: File): Promise<BatchAnswer> {
  const form = new FormData();
  form.append('file', file);
  const answer = await reach('/api/batches', { method: 'POST', body: form });
  return (await answer.json()) as BatchAnswer;
}

function DropBox() {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const send = useMutation({
    mutationFn: sendFile,
    onSuccess: async (batch) => {
      queries.setQueryData(['batch', batch.id], batch);
      await navigate(`/intake/${batch.id}`);
    },
  });
  const take = (files: FileList | null) => {
    const [file] = files ?? [];
    if (file) send.mutate(file);
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files);
  };
  return (
    <div
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
      style={{
        border: `2px dashed ${over ? 'var(--brass-bright)' : 'var(--line-strong)'}`,
        borderRadius: 10,
        padding: '22px 24px',
        background: over ? 'var(--brass-tint)' : 'var(--card)',
      }}
    >
      <div className="row" style={{ gap: 16 }}>
        <div className="grow">
          <h3>Drop a supplier’s file here</h3>
          <span className="muted small">
            CSV, TSV, XLSX, JSON, JSON Lines, XML, or a page with schema.org descriptions; up to 1 GB. Or your own
            grid’s export, brought back.
          </span>
        </div>
        <input ref={input} type="file" hidden aria-label="File" onChange={(event) => take(event.target.files)} />
        <Button variant="contained" disabled={send.isPending} onClick={() => input.current?.click()}>
          Choose a file
        </Button>
      </div>
      {send.isPending && <LinearProgress aria-label="Reading the file" sx={{ mt: 1.5 }} />}
      {send.error && <ProblemBox error={send.error} />}
    </div>
  );
}

const stateWords: Record<BatchSummary['state'], [string, string]> = {
  read: ['none', 'read, columns to confirm'],
  trying: ['sent', 'trying'],
  tried: ['advice', 'tried, not applied'],
  applying: ['sent', 'applying'],
  applied: ['live', 'applied'],
  undoing: ['sent', 'undoing'],
  undone: ['none', 'undone'],
  failed: ['refused', 'failed'],
  cancelled: ['none', 'cancelled'],
};

function BatchTable({ items }: { items: BatchSummary[] }) {
  if (items.length === 0) return <p className="muted">No file has been read in yet.</p>;
  return (
    <table className="plain" style={{ background: 'var(--card)' }}>
      <thead>
        <tr>
          <th>File</th>
          <th>Supplier</th>
          <th>State</th>
          <th className="num">Created</th>
          <th className="num">Joined</th>
          <th className="num">Changed</th>
          <th className="num">Unchanged</th>
          <th className="num">Refused</th>
          <th>Read</th>
        </tr>
      </thead>
      <tbody>
        {items.map((row) => (
          <tr key={row.id}>
            <td>
              <Link to={`/intake/${row.id}`}>{row.fileName}</Link>{' '}
              <span className="muted small">{bytes(row.bytes)}</span>
            </td>
            <td>{row.supplier ?? <span className="muted">nobody’s yet</span>}</td>
            <td>
              <State is={stateWords[row.state][0]}>{stateWords[row.state][1]}</State>
            </td>
            {(['created', 'joins', 'changed', 'unchanged', 'refused'] as const).map((key) => (
              <td key={key} className="num">
                {row.counts ? count(row.counts[key]) : ''}
              </td>
            ))}
            <td className="muted" style={{ whiteSpace: 'nowrap' }}>
              {clock(row.createdAt)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
