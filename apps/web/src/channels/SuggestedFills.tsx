/** Fields without a fill that names and types say what to fill with: all taken at once, with the effect shown first. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, api } from '@velvet-shelf/contract';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { plural, sayBecoming } from '../design/words';

export function SuggestedFills({
  placeId,
  attributes,
}: {
  placeId: number;
  attributes: readonly ChannelAttributeAnswer[];
}) {
  const params = { id: placeId };
  const queries = useQueryClient();
  const tell = useTell();
  const fills = attributes.flatMap(({ key, suggested }) =>
    suggested ? [{ attribute: key, market: '', category: '', fill: suggested.fill }] : [],
  );
  const tried = useMutation({ mutationFn: () => call(api.channels.tryFills, { params, body: { fills } }) });
  const save = useMutation({
    mutationFn: () => call(api.channels.saveFills, { params, body: { fills } }),
    onSuccess: (effect) => {
      tell(`Filled; ${sayBecoming(effect, true)}`);
      tried.reset();
      void queries.invalidateQueries();
    },
  });
  if (fills.length === 0) return null;
  const error = tried.error ?? save.error;
  return (
    <Box pad={[2.5, 3, 2.5, 0]}>
      {tried.data ? (
        <div className="effect" role="status">
          <Box grow>
            <Box serif>{sayBecoming(tried.data)}</Box>
            <Box muted small>
              {attributes
                .flatMap(({ label, suggested }) => (suggested ? [`${label}: ${suggested.why}`] : []))
                .join(' · ')}
            </Box>
          </Box>
          <Button variant="outlined" color="inherit" onClick={() => tried.reset()}>
            Leave it
          </Button>
          <Button variant="contained" disabled={save.isPending} onClick={() => save.mutate()}>
            Take them
          </Button>
        </div>
      ) : (
        <Box row>
          <Box grow>
            <b>{plural(fills.length, 'field')}</b> without a fill can be copied from what our goods have.
          </Box>
          <Button variant="outlined" disabled={tried.isPending} onClick={() => tried.mutate()}>
            {tried.isPending ? 'Trying…' : `See what ${plural(fills.length, 'fill')} would do`}
          </Button>
        </Box>
      )}
      {error && <ProblemBox error={error} />}
    </Box>
  );
}
