/** Over a dry run: words whose meaning our own goods tell were not taken; one press takes them and tries again. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { call } from '../api/call';
import { ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { plural } from '../design/words';
import { untakenWords } from './untaken';
import { batchWork } from './work';

export function UntakenWords({ batch, onChange }: { batch: BatchAnswer; onChange: (batch: BatchAnswer) => void }) {
  const { told, count, map } = untakenWords(batch);
  const params = { id: batch.id };
  const take = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: async () => {
      await call(api.intake.reading, { params, body: { map } });
      return call(api.intake.tryOut, { params });
    },
    onSuccess: onChange,
  });
  if (batch.state !== 'tried' || count === 0) return null;
  return (
    <Box small wrap row framed pad={[2, 3]} below={2} gap={3.5}>
      <State is="advice">
        {plural(count, 'word')} of “{told.map(([list]) => list.column).join('”, “')}” could be read: goods that both
        sides describe tell what {count === 1 ? 'it means' : 'they mean'}
      </State>
      <Box as={Link} toEnd to={`/intake/${batch.id}?tab=columns`}>
        Look at them
      </Box>
      <Button size="small" variant="outlined" disabled={take.isPending} onClick={() => take.mutate()}>
        {take.isPending ? 'Trying…' : `Take ${count === 1 ? 'it' : `all ${count}`} and try again`}
      </Button>
      {take.error && <ProblemBox error={take.error} />}
    </Box>
  );
}
