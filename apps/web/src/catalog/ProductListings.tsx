/** Where a product is listed, and how it stands there. */
import type { ProductAnswer } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { Box } from '../design/Box';
import { Line } from '../design/Line';
import { State } from '../design/State';
import { plural } from '../design/words';

export function ProductListings({ product: { listings } }: { product: ProductAnswer }) {
  if (listings.length === 0)
    return (
      <Box as="p" muted>
        It is in no channel’s assortment.
      </Box>
    );
  return listings.map((listing) => (
    <Line key={listing.id} label={listing.place}>
      <Link to={`/listings?open=${listing.id}&place=${listing.placeId}`} className="plain">
        <State is={listing.readiness} /> {listing.channelState !== 'none' && <State is={listing.channelState} />}
      </Link>{' '}
      <Box as="span" small muted>
        {listing.findings > 0 && plural(listing.findings, 'finding')}
      </Box>
    </Line>
  ));
}
