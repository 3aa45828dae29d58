/** What is still to set at each place of an account, what frees most first: the causes of its listings, each leads to its fix. */
import { useQuery } from '@tanstack/react-query';
import { type PlaceAnswer, api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { State } from '../design/State';
import { count, plural } from '../design/words';

/** Causes shown of a place. */
const mostShown = 5;

export function StillToSet({ accountId }: { accountId: number }) {
  const places = useQuery(ask(api.channels.places)).data?.items.filter((place) => place.accountId === accountId);
  if (!places || places.length === 0) return null;
  return (
    <Box>
      <Box as="h3" below={1}>
        What is still to set
      </Box>
      {places.map((place) => (
        <AtPlace key={place.id} place={place} />
      ))}
    </Box>
  );
}

function AtPlace({ place }: { place: PlaceAnswer }) {
  const at = (readiness: string) =>
    place.totals.filter((total) => total.readiness === readiness).reduce((sum, { listings }) => sum + listings, 0);
  const blocked = at('blocked');
  const causes = useQuery({
    ...ask(api.causes.ranked, { query: { place: String(place.id) } }),
    enabled: blocked > 0,
  }).data;
  const first = causes && inOrder(causes).slice(0, mostShown);
  return (
    <Box below={2}>
      <Box row gap={3}>
        <Box grow>{place.name}</Box>
        <State is="ready">{count(at('ready'))} ready</State>
        {blocked > 0 ? (
          <Link to={`/causes?place=${place.id}`}>
            <State is="blocked">
              {count(blocked)} blocked{causes && ` by ${plural(causes.items.length, 'cause')}`}
            </State>
          </Link>
        ) : (
          <span>nothing is blocked</span>
        )}
      </Box>
      {first?.map(({ key, words, touched, frees }) => (
        <Box row small key={key} gap={3} pad={[0.5, 0]}>
          <Box grow as={Link} to={`/causes?place=${place.id}&cause=${encodeURIComponent(key)}`}>
            {words}
          </Box>
          <Box as="span" muted oneLine>
            {frees > 0 ? `frees ${count(frees)}` : plural(touched, 'listing')}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

type Ranked = z.output<typeof api.causes.ranked.answer>;

/** The shortest plan, each with what it frees once those before it are done; then what else there is. */
function inOrder({ items, plan }: Ranked) {
  const planned = plan.flatMap(({ key, freed }, i) => {
    const cause = items.find((each) => each.key === key);
    return cause ? [{ ...cause, frees: freed - (plan[i - 1]?.freed ?? 0) }] : [];
  });
  const rest = items.filter(({ key }) => !plan.some((step) => step.key === key));
  return [...planned, ...rest.map((cause) => ({ ...cause, frees: cause.unlocks }))];
}
