/** Facts of a product to edit: prices, stock, options and values; what has none folded away. */
import type { ProductAnswer } from '@velvet-shelf/contract';
import { Box } from '../design/Box';
import { Line } from '../design/Line';
import { count, plural } from '../design/words';
import { Prices } from './Prices';
import { ValueRow } from './ValueRow';

interface OwnValuesProps {
  product: ProductAnswer;
  /** Attribute to begin editing. */
  focus?: string | undefined;
  onStock: () => void;
  /** Without what a variant has from its family, texts among what it has. */
  onlyOwn?: boolean;
}

export function OwnValues({ product, focus, onStock, onlyOwn = false }: OwnValuesProps) {
  const isFamily = product.kind === 'family';
  const facts = product.values.filter(({ group }) => onlyOwn || group !== 'Texts');
  const filled = facts.filter(
    ({ origin, attribute }) => (origin !== 'none' && !(onlyOwn && origin === 'inherited')) || attribute === focus,
  );
  const bare = facts.filter(({ origin, attribute }) => origin === 'none' && attribute !== focus);
  return (
    <>
      {!isFamily && <Prices key={product.id} product={product} />}
      {!isFamily && (
        <Line label="Stock">
          <button type="button" className="value" aria-label="Open stock" onClick={onStock}>
            {count(product.stock)}
          </button>
        </Line>
      )}
      {product.options.map(([axis, value]) => (
        <Line key={axis} label={`Option: ${axis}`}>
          {value}
        </Line>
      ))}
      {filled.map((value) => (
        <ValueRow
          key={`${product.id} ${value.attribute}@${value.language}`}
          productId={product.id}
          value={value}
          editing={value.attribute === focus}
        />
      ))}
      <Box as="details" above={2.5}>
        <Box as="summary" small muted>
          {plural(bare.length, 'attribute')} without a value
        </Box>
        {bare.map((value) => (
          <ValueRow
            key={`${product.id} ${value.attribute}@${value.language}`}
            productId={product.id}
            value={value}
            editing={false}
          />
        ))}
      </Box>
    </>
  );
}
