import { Box } from '../design/Box';
import { DropZone } from '../design/DropZone';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type BatchSummary, api } from '@velvet-shelf/contract';
import { Link, useNavigate } from 'react-router';
import { ask, keyOf } from '../api/ask';
import { sendFile } from '../api/call';
import { Loaded, ProblemBox } from '../design/feedback';
import { type Column, DataTable } from '../design/DataTable';
import { State } from '../design/State';
import { bytes, clock, count } from '../design/words';
import { Fetching } from './Fetching';
import { Warehouses } from '../stock/Warehouses';
import { Suppliers } from '../company/Suppliers';

export function Batches() {
  const batches = useQuery(ask(api.intake.batches));
  return (
    // The padding is inside what scrolls: a table's head sticks to the edge, with no row above it.
    <Box as="section" scroll grow>
      <Box pad={[4.5, 6]}>
        <h1>Intake</h1>
        <Box as="p" muted around={[0.5, 0, 3]}>
          Drop a supplier’s file. You see what it would change before anything is changed, and can take it back after.
        </Box>
        <DropBox />
        <Box row gap={6} align="start" above={5}>
          <Box grow>
            <Box as="h2" below={1.5}>
              Batches
            </Box>
            <Loaded query={batches}>{(data) => <BatchTable items={data.items} />}</Loaded>
          </Box>
          <Box wide={352}>
            <Suppliers />
            <Fetching />
            <Warehouses />
          </Box>
        </Box>
      </Box>
    </Box>
  );
}

function DropBox() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const send = useMutation({
    mutationFn: (file: File) => sendFile(api.intake.upload, file),
    onSuccess: async (batch) => {
      queries.setQueryData(keyOf(api.intake.batch, { params: { id: batch.id } }), batch);
      await navigate(`/intake/${batch.id}`);
    },
  });
  return (
    <DropZone
      head="Drop a supplier’s file here"
      hint={
        <>
          CSV, TSV, XLSX, JSON, JSON Lines, XML, or a page with schema.org descriptions; up to 1 GB. Or your own grid’s
          export, brought back.
        </>
      }
      choose="Choose a file"
      isBusy={send.isPending}
      onFiles={([file]) => file && send.mutate(file)}
    >
      {send.isPending && <LinearProgress aria-label="Reading the file" sx={{ mt: 1.5 }} />}
      {send.error && <ProblemBox error={send.error} />}
    </DropZone>
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

const outcomes = [
  ['created', 'Created'],
  ['joins', 'Joined'],
  ['changed', 'Changed'],
  ['unchanged', 'Unchanged'],
  ['refused', 'Refused'],
] as const;

function BatchTable({ items }: { items: BatchSummary[] }) {
  if (items.length === 0)
    return (
      <Box as="p" muted>
        No file has been read in yet.
      </Box>
    );
  return (
    <DataTable
      label="Files that were brought in"
      look={{ surface: 'card' }}
      rows={items}
      keyOf={({ id }) => id}
      columns={[
        {
          head: 'File',
          sortBy: ({ fileName }) => fileName,
          cell: (batch) => (
            <>
              <Link to={`/intake/${batch.id}`}>{batch.fileName}</Link>{' '}
              <Box as="span" small muted>
                {bytes(batch.bytes)}
              </Box>
            </>
          ),
        },
        {
          head: 'Supplier',
          sortBy: ({ supplier }) => supplier,
          cell: ({ supplier }) => supplier ?? 'nobody’s yet',
          look: ({ supplier }) => ({ muted: supplier === null }),
        },
        {
          head: 'State',
          sortBy: ({ state }) => stateWords[state][1],
          cell: ({ state }) => <State is={stateWords[state][0]}>{stateWords[state][1]}</State>,
        },
        ...outcomes.map(([outcome, head]): Column<BatchSummary> => ({
          head,
          sortBy: ({ counts }) => counts?.[outcome],
          cell: ({ counts }) => (counts ? count(counts[outcome]) : ''),
          look: { num: true },
        })),
        {
          head: 'Read',
          sortBy: ({ createdAt }) => createdAt,
          cell: ({ createdAt }) => clock(createdAt),
          look: { muted: true, oneLine: true },
        },
      ]}
    />
  );
}
