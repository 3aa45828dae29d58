/** Joined goods that would not be joined like this any more: shown, and split one by one or all at once. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { ProblemBox, useTell } from '../design/feedback';
import { count, plural } from '../design/words';

export function Doubted() {
  const queries = useQueryClient();
  const tell = useTell();
  const [open, setOpen] = useState(false);
  const doubted = useQuery(ask(api.matching.doubted, { query: { limit: 100 } }));
  const split = useMutation({
    mutationFn: (products?: number[]) => call(api.matching.splitDoubted, { body: products ? { products } : {} }),
    onSuccess: ({ split: n }) => {
      tell(`${plural(n, 'joined product')} split; undo brings them back`);
      void queries.invalidateQueries();
    },
  });
  const { total = 0, items = [] } = doubted.data ?? {};
  if (total === 0) return split.error ? <ProblemBox error={split.error} /> : null;
  return (
    <section className="doubted" aria-label="Joins that would not be made any more">
      <b>{plural(total, 'join', 'joins')} would not be made any more</b>
      <Box row>
        <Button size="small" color="secondary" onClick={() => setOpen(!open)}>
          {open ? 'Hide them' : 'Show them'}
        </Button>
        <Button size="small" disabled={split.isPending} onClick={() => split.mutate(undefined)}>
          Split all {count(total)}
        </Button>
      </Box>
      {split.error && <ProblemBox error={split.error} />}
      {open && (
        <ol>
          {items.map((row) => (
            <li key={row.id}>
              <Link to={`/matching?tab=joined&product=${row.id}`}>{row.title ?? row.sku}</Link>
              <Box small muted>
                {row.against.join('; ')}
              </Box>
              <Button size="small" disabled={split.isPending} onClick={() => split.mutate([row.id])}>
                Split
              </Button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
