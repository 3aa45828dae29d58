/** Facts of a product to edit: prices, stock, options and values; what has none folded away. */
import type { ProductAnswer } from '@velvet-shelf/contract';
import { Box } from '../design/Box';
import { Line } from '../design/Line';
import { count, plural } from '../design/words';
import { OptionRow } from './OptionRow';
import { OtherGoods } from './OtherGoods';
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
  const facts = product.values.filter(({ language }) => onlyOwn || language === null);
  const filled = facts.filter(
    ({ origin, attribute }) => (origin !== 'none' && !(onlyOwn && origin === 'inherited')) || attribute === focus,
  );
  const bare = facts.filter(({ origin, attribute }) => origin === 'none' && attribute !== focus);
  const required = product.values.filter(({ isRequired }) => isRequired);
  const lacking = required.filter(({ origin, shown }) => origin === 'none' || shown === null);
  return (
    <>
      {!onlyOwn && required.length > 0 && (
        <Box small below={1} role="status">
          Its category requires {plural(required.length, 'value')}:{' '}
          {lacking.length === 0 ? (
            <Box as="span" tone="ready">
              it has all of them
            </Box>
          ) : (
            <Box as="span" tone="blocked">
              {lacking.map(({ label }) => label).join(', ')} {lacking.length === 1 ? 'is' : 'are'} missing
            </Box>
          )}
        </Box>
      )}
      <Prices key={product.id} product={product} />
      {isFamily && (
        <Box small muted below={1}>
          of its variants that have no price of their own, with what their options add
        </Box>
      )}
      {!isFamily && (
        <Line label="Stock">
          <button type="button" className="value" aria-label="Open stock" onClick={onStock}>
            {count(product.stock)}
          </button>
        </Line>
      )}
      {!onlyOwn && <OtherGoods product={product} />}
      {product.options.map(([axis, value]) => (
        <OptionRow key={`${product.id} ${axis}`} product={product} axis={axis} value={value} />
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
        {[...bare]
          .sort((a, b) => Number(b.isRequired) - Number(a.isRequired))
          .map((value) => (
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
