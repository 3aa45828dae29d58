/** What is still to set at each place of an account, what frees most first: the causes of its listings. */
import { useQuery } from '@tanstack/react-query';
import { type PlaceAnswer, api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { State } from '../design/State';
import { count } from '../design/words';

export function StillToSet({ accountId }: { accountId: number }) {
  const places = useQuery(ask(api.channels.places)).data?.items.filter((place) => place.accountId === accountId);
  if (!places || places.length === 0) return null;
  const at = ({ totals }: PlaceAnswer, readiness: string) =>
    totals.filter((total) => total.readiness === readiness).reduce((sum, { listings }) => sum + listings, 0);
  return (
    <Box>
      <Box as="h3" below={1}>
        What is still to set
      </Box>
      {places.map((place) => (
        <Box row key={place.id} gap={3}>
          <Box grow>{place.name}</Box>
          <State is="ready">{count(at(place, 'ready'))} ready</State>
          {at(place, 'blocked') > 0 ? (
            <Link to={`/causes?place=${place.id}`}>
              <State is="blocked">{count(at(place, 'blocked'))} blocked: what frees most</State>
            </Link>
          ) : (
            <span>nothing is blocked</span>
          )}
        </Box>
      ))}
    </Box>
  );
}
