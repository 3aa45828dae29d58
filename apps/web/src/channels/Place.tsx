/** A place on a channel: category map, fills, rulebook. */
import { Box } from '../design/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useQuery } from '@tanstack/react-query';
import { type PlaceAnswer, api } from '@velvet-shelf/contract';
import { Link, useNavigate, useParams } from 'react-router';
import { ask } from '../api/ask';
import { Empty, Loaded } from '../design/feedback';
import { State } from '../design/State';
import { count } from '../design/words';
import { AssortmentPage } from './Assortment';
import { Categories } from './Categories';
import { Fills } from './Fills';
import { Presets } from './Presets';
import { RulebookPage } from './Rulebook';
import { stateWords } from './states';

export function Place() {
  const params = useParams();
  const id = Number(params.id);
  const tab = params.tab ?? 'categories';
  const navigate = useNavigate();
  const places = useQuery(ask(api.channels.places));
  return (
    <Loaded query={places}>
      {({ items }) => {
        const place = items.find((row) => row.id === id);
        if (!place) return <Empty title="There is no such place">It may have been disconnected.</Empty>;
        return (
          <Box as="section" col grow>
            <Box pad={[3.5, 6, 0]}>
              <Box row align="end" gap={4.5}>
                <h1>{place.name}</h1>
                <Box as="span" grow muted padBottom={1}>
                  {place.language} · {place.currency} · rulebook {place.rulebookVersion} ·{' '}
                  {stateWords[place.accountState].words}
                </Box>
                <Totals place={place} />
              </Box>
              {place.isBuilding && (
                <Box small tone="advice" role="status" above={1}>
                  A file is being built from what was set when it began: what you change now goes with the next one.
                </Box>
              )}
              <Tabs value={tab} onChange={(_, to: string) => void navigate(`/places/${id}/${to}`)}>
                <Tab value="goods" label="Which goods" />
                <Tab value="categories" label="Category map" />
                <Tab value="fills" label="Fills" />
                <Tab value="presets" label="Presets" />
                <Tab value="rulebook" label="Rulebook" />
              </Tabs>
            </Box>
            {tab === 'goods' && <AssortmentPage key={id} placeId={id} />}
            {tab === 'categories' && <Categories placeId={id} />}
            {tab === 'fills' && <Fills placeId={id} />}
            {tab === 'presets' && <Presets key={id} placeId={id} />}
            {tab === 'rulebook' && <RulebookPage placeId={id} />}
          </Box>
        );
      }}
    </Loaded>
  );
}

function Totals({ place }: { place: PlaceAnswer }) {
  const sum = (readiness: string) =>
    place.totals.filter((total) => total.readiness === readiness).reduce((total, row) => total + row.listings, 0);
  return (
    <Box row gap={4} padBottom={1}>
      {(['ready', 'blocked', 'not for this channel'] as const).map((row) => (
        <Link key={row} to={`/listings?place=${place.id}&readiness=${row}`} className="plain">
          <State is={row}>
            {count(sum(row))} {row}
          </State>
        </Link>
      ))}
    </Box>
  );
}
