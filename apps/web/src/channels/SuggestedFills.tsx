/** Fields without a fill that names and types say what to fill with: each with its reason, those chosen taken at once, with the effect shown first. */
import Button from '@mui/material/Button';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { plural, sayBecoming } from '../design/words';

export function SuggestedFills({
  placeId,
  attributes,
  category,
}: {
  placeId: number;
  attributes: readonly ChannelAttributeAnswer[];
  /** What is counted in this category of the channel alone: just the fields asked for there. */
  category: string | undefined;
}) {
  const params = { id: placeId };
  const queries = useQueryClient();
  const tell = useTell();
  const [isOpen, setOpen] = useState(false);
  const [without, setWithout] = useState<readonly string[]>([]);
  const offered = attributes.flatMap(({ key, label, suggested, filled, missing }) =>
    suggested && (category === undefined || filled + missing > 0) ? [{ key, label, suggested }] : [],
  );
  const fills = offered.flatMap(({ key, suggested }) =>
    without.includes(key) ? [] : [{ attribute: key, fill: suggested.fill }],
  );
  const tried = useQuery({
    ...ask(api.channels.tryFills, { params, body: { fills } }),
    enabled: isOpen && fills.length > 0,
    placeholderData: keepPreviousData,
  });
  const save = useMutation({
    mutationFn: () => call(api.channels.saveFills, { params, body: { fills } }),
    onSuccess: (effect) => {
      tell(`Filled; ${sayBecoming(effect, true)}`);
      setOpen(false);
      void queries.invalidateQueries();
    },
  });
  if (offered.length === 0) return null;
  const error = tried.error ?? save.error;
  return (
    <Box pad={[2.5, 3, 2.5, 0]}>
      {isOpen ? (
        <Box framed rounded pad={3} surface="brass" role="group" aria-label="Suggested fills">
          {offered.map(({ key, label, suggested }) => (
            <Box key={key} as="label" small row gap={1.5} align="start" padBottom={1}>
              <input
                type="checkbox"
                checked={!without.includes(key)}
                onChange={({ target }) =>
                  setWithout(target.checked ? without.filter((other) => other !== key) : [...without, key])
                }
              />
              <span>
                <b>{label}</b> <span className="muted">{suggested.why}</span>
              </span>
            </Box>
          ))}
          <Box serif role="status" around={[1, 0, 2]}>
            {fills.length === 0
              ? 'None is chosen.'
              : tried.data && !tried.isPlaceholderData
                ? sayBecoming(tried.data)
                : 'Trying them on the whole assortment…'}
          </Box>
          <Box row gap={2}>
            <Button variant="outlined" color="inherit" onClick={() => setOpen(false)}>
              Leave it
            </Button>
            <Button variant="contained" disabled={save.isPending || fills.length === 0} onClick={() => save.mutate()}>
              {fills.length < offered.length ? `Take ${plural(fills.length, 'fill')}` : 'Take them'}
            </Button>
          </Box>
        </Box>
      ) : (
        <Box row>
          <Box grow>
            <b>{plural(offered.length, 'field')}</b> without a fill
            {category === undefined ? '' : ' in this category'} can be copied from what our goods have.
          </Box>
          <Button variant="outlined" onClick={() => setOpen(true)}>
            See what {plural(offered.length, 'fill')} would do
          </Button>
        </Box>
      )}
      {error && <ProblemBox error={error} />}
    </Box>
  );
}
