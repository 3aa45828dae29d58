/** What pages of enrichment share. */
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { Meter } from '../design/Meter';
import { count } from '../design/words';

/** The job of a kind that is under way, if any. */
export const useJobOf = (kind: string) => useQuery(ask(api.today.shelf)).data?.jobs.find((job) => job.kind === kind);

/** How far the job of a kind is. */
export function Progress({ kind }: { kind: string }) {
  const job = useJobOf(kind);
  if (!job) return null;
  return (
    <Box surface="brass" rounded pad={[2, 3]} below={3} row role="status">
      <span>
        {job.label}: {count(job.done)} of {count(job.total)}
      </span>
      <Box grow>
        <Meter percent={job.total === 0 ? 0 : (100 * job.done) / job.total} label={job.label} />
      </Box>
    </Box>
  );
}

/** One of several lists, with how many wait in it. */
export function SideChoice({
  label,
  n,
  isOn,
  onChoose,
}: {
  label: string;
  n: number;
  isOn: boolean;
  onChoose: () => void;
}) {
  return (
    <Button
      fullWidth
      color="inherit"
      aria-pressed={isOn}
      variant={isOn ? 'outlined' : 'text'}
      onClick={onChoose}
      sx={{ justifyContent: 'space-between' }}
    >
      <span>{label}</span>
      <span>{count(n)}</span>
    </Button>
  );
}
