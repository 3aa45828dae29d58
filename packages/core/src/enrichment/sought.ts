/** What of a company's dictionary can be found in texts, and what is found as a value of it. */
import { type Attribute, type Role, type Value, closedList, makeMeasure, unitCode } from '../values/index.js';
import type { FoundValue, SoughtAttribute } from './model.js';

/** What says which goods they are, and not what they are like. */
const never: ReadonlySet<Role> = new Set<Role>([
  'sku',
  'title',
  'description',
  'brand',
  'category',
  'gtin',
  'mpn',
  'state',
  'page',
  'pictures',
  'customsCode',
  'purchasePrice',
  'recommendedPrice',
]);

export function soughtOf(attributes: Iterable<Attribute>): SoughtAttribute[] {
  return [...attributes].flatMap((attribute): SoughtAttribute[] => {
    const { key, label, aliases, role, type, dimension, perLanguage } = attribute;
    if (perLanguage || (role && never.has(role))) return [];
    const head = { key, label, aliases };
    if (type === 'boolean') return [{ ...head, kind: 'yesNo' }];
    if (type === 'measure' && dimension) return [{ ...head, kind: 'measure', dimension }];
    if (type === 'number' && role === 'packSize') return [{ ...head, kind: 'count' }];
    const list = closedList(attribute);
    if (type !== 'choice' || !list) return [];
    const spellings = Object.fromEntries(
      list.values
        .filter(({ hidden }) => !hidden)
        .map(({ key: value, names, spellings: others = [] }) => [value, [...Object.values(names), ...others]]),
    );
    return [{ ...head, kind: 'choice', spellings }];
  });
}

/** What was found, as a value of its attribute; undefined where its unit is none of ours. */
export function valueOfFound(found: FoundValue, { many, dimension }: Attribute): Value | undefined {
  if (typeof found === 'object') {
    const unit = 'amount' in found ? unitCode(found.unit, dimension) : undefined;
    return unit === undefined || !('amount' in found) ? undefined : makeMeasure(found.amount, unit);
  }
  return many ? [found] : found;
}
