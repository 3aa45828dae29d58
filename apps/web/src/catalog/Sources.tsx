/** Who speaks for a product, and whether they still list it. */
import type { ProductAnswer } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { Box } from '../design/Box';

export function Sources({ product }: { product: ProductAnswer }) {
  if (product.sources.length === 0) return null;
  return (
    <Box small above={0.5}>
      {product.sources.map((source, i) => (
        <Box as="span" tone={source.dropped ? 'advice' : undefined} key={source.recordId}>
          {i > 0 && ' · '}
          {source.supplier} {source.key}
          {source.dropped && ' (no longer listed)'}
        </Box>
      ))}
      {product.sources.length > 1 && (
        <>
          {' · '}
          <Link to={`/matching?tab=joined&product=${product.id}`}>side by side</Link>
        </>
      )}
      {' · '}
      <Link to={`/matching/by-hand?a=${product.id}`}>join with…</Link>
    </Box>
  );
}
