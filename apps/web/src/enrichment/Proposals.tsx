/** Values that a product’s own texts say and it does not have: each with its words, taken singly or all that are sure. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ProposalAnswer, api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { plural } from '../design/words';

/** From here on they are taken together. */
const sure = 0.9;

export function Proposals({ productId }: { productId: number }) {
  const queries = useQueryClient();
  const tell = useTell();
  const found = useQuery(ask(api.enrichment.proposals, { params: { id: productId } }));
  const take = useMutation({
    mutationFn: (taken: readonly ProposalAnswer[]) =>
      call(api.catalog.edit, {
        params: { id: productId },
        body: { edits: taken.map(({ attribute, text, held }) => ({ attribute, text, madeAgainst: held })) },
      }),
    onSuccess: (_, taken) => {
      void queries.invalidateQueries();
      tell(`Took ${plural(taken.length, 'value')} from the texts`);
    },
  });
  const items = found.data?.items ?? [];
  const many = items.filter(({ score, held }) => score >= sure && held === null);
  if (items.length === 0) return null;
  return (
    <Box as="section" above={2} aria-label="Found in the texts">
      <Box row align="baseline">
        <Box as="h3" grow>
          Found in the texts
        </Box>
        {many.length > 1 && (
          <Button disabled={take.isPending} onClick={() => take.mutate(many)}>
            Take {many.length} of {Math.round(sure * 100)} % and above
          </Button>
        )}
      </Box>
      {take.error && <ProblemBox error={take.error} />}
      {items.map((item) => (
        <Box key={item.attribute} row align="baseline" gap={2.5} pad={[1, 0]} line="bottom">
          <Box as="span" wide={116} fixed tone="muted" textSize={12.5}>
            {item.label}
          </Box>
          <Box grow>
            <b>{item.shown}</b>
            {item.held !== null && (
              <Box as="span" tone="advice">
                {' '}
                where it has {item.held}
              </Box>
            )}
            <Box small muted>
              {Math.round(item.score * 100)} % · {item.evidence.in}, {item.evidence.language}: {item.evidence.before}
              <mark>{item.evidence.words}</mark>
              {item.evidence.after}
            </Box>
          </Box>
          <Button
            disabled={take.isPending}
            aria-label={`Take ${item.label} ${item.shown}`}
            onClick={() => take.mutate([item])}
          >
            Take
          </Button>
        </Box>
      ))}
    </Box>
  );
}
