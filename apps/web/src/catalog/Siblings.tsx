/** The variants of a family in a shop's order, what is wrong between them, and the combinations nobody has. */
import Button from '@mui/material/Button';
import type { ProductAnswer } from '@velvet-shelf/contract';
import { axesOf, missingCombinations, orderVariants, siblingFaults } from '@velvet-shelf/core/catalog';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { count, plural } from '../design/words';
import { SiblingFaults } from './SiblingFaults';

/** Combinations that are written out. */
const mostShown = 60;

export function Siblings({ product, onOpen }: { product: ProductAnswer; onOpen: (id: number) => void }) {
  const [language] = useCompany().languages;
  const { siblings, values } = product;
  const { axes, ordered, faults, missing } = useMemo(() => {
    const variants = siblings.map(({ options, ...rest }) => ({ ...rest, options: Object.fromEntries(options) }));
    const of = axesOf(variants, values);
    return {
      axes: of,
      ordered: orderVariants(of, variants, language),
      faults: siblingFaults(of, variants),
      missing: missingCombinations(of, variants, { most: mostShown }),
    };
  }, [siblings, values, language]);
  const names = new Map(siblings.map(({ id, sku, title }) => [id, sku ?? title ?? 'no SKU']));
  const say = (set: Record<string, string | null | undefined>) => axes.map(({ key }) => set[key] ?? '–').join(' × ');
  return (
    <>
      <SiblingFaults axes={axes} faults={faults} nameOf={(id) => names.get(id) ?? ''} />
      <Box as="ul" unmarked around={[2, 0]}>
        {ordered.map((sibling) => (
          <Box as="li" row pad={[1, 0]} line="bottom" key={sibling.id}>
            <Button
              color="secondary"
              sx={{ p: 0, minWidth: 0, textAlign: 'left', fontWeight: sibling.id === product.id ? 800 : 600 }}
              onClick={() => onOpen(sibling.id)}
            >
              {names.get(sibling.id)}
            </Button>
            <Box as="span" cut small muted>
              {axes.length > 0 ? say(sibling.options) : Object.values(sibling.options).join(' × ')}
            </Box>
          </Box>
        ))}
      </Box>
      {axes.length > 0 && (
        <Button
          component={Link}
          to={`/catalog/new?family=${product.family?.id ?? product.id}`}
          variant="outlined"
          size="small"
        >
          More variants
        </Button>
      )}
      {missing.count > 0 && (
        <Box as="details" above={1}>
          <Box as="summary" small muted>
            {plural(missing.count, 'combination')} that no variant has
          </Box>
          <Box as="ul" unmarked around={[1, 0]} small>
            {missing.sets.map((set) => (
              <li key={say(set)}>{say(set)}</li>
            ))}
            {missing.count > missing.sets.length && <li>and {count(missing.count - missing.sets.length)} more</li>}
          </Box>
        </Box>
      )}
    </>
  );
}
