/** What is asked otherwise of one attribute, in words: whether more is asked for, less, or something else. */
import { type Difference, isSame, other, sayChanged } from './difference.js';
import type { ChannelAttribute } from './model.js';

const needOrder: readonly ChannelAttribute['need'][] = ['optional', 'recommended', 'required'];

/** Whether more is needed than before. */
export const needWay = (before: ChannelAttribute['need'], after: ChannelAttribute['need']): Difference['way'] =>
  needOrder.indexOf(after) > needOrder.indexOf(before) ? 'tighter' : 'looser';

/** What differs of an attribute as it is asked, wherever that is said. */
export function askedDifferences(a: ChannelAttribute, b: ChannelAttribute): Difference[] {
  const found: Difference[] = [];
  const differs = (key: keyof ChannelAttribute) => !isSame(a[key], b[key]);
  if (a.need !== b.need)
    found.push({
      words: `now ${b.need}, was ${a.need}`,
      way: needWay(a.need, b.need),
    });
  for (const key of keysOf(a.limits, b.limits))
    if (!isSame(a.limits[key], b.limits[key]))
      found.push({
        words: `${limitWords[key]} ${sayChanged(a.limits[key], b.limits[key])}`,
        way: wayOf(key, a.limits[key], b.limits[key]),
      });
  if (a.type !== b.type || a.many !== b.many) found.push(other(`now ${sayType(b)}, was ${sayType(a)}`));
  if (differs('requiredWhen'))
    found.push({
      words: b.requiredWhen ? 'required of other items than before' : 'no longer required of some items',
      way: !b.requiredWhen ? 'looser' : !a.requiredWhen ? 'tighter' : 'other',
    });
  const [was, is] = [a.advised ?? {}, b.advised ?? {}];
  for (const key of keysOf(was, is))
    if (!isSame(was[key], is[key]))
      found.push({ words: `advised: ${limitWords[key]} ${sayChanged(was[key], is[key])}`, way: 'advice' });
  if (differs('exempt')) found.push(other(`goods let go without it ${sayChanged(a.exempt ?? [], b.exempt ?? [])}`));
  if (differs('terms')) found.push(other(`its values ${sayTerms(b)}, ${sayTerms(a)} before`));
  return found;
}

/** The same, with its name and where it is asked; `say` names a category. */
export function attributeDifferences(
  a: ChannelAttribute,
  b: ChannelAttribute,
  say: (category: string) => string,
): Difference[] {
  const found = askedDifferences(a, b);
  const differs = (key: keyof ChannelAttribute) => !isSame(a[key], b[key]);
  const named = (paths: readonly string[] = []) => paths.map(say);
  if (a.label !== b.label) found.push(other(`called “${b.label}”, was “${a.label}”`));
  if (differs('requiredIn'))
    found.push({
      words: `required ${sayChanged(named(a.requiredIn), named(b.requiredIn))}`,
      way: wayOf('values', b.requiredIn ?? [], a.requiredIn ?? []),
    });
  if (differs('categories'))
    found.push(
      other(
        `asked for ${a.categories && b.categories ? sayChanged(named(a.categories), named(b.categories)) : `in ${named(b.categories).join(', ') || 'all categories'}`}`,
      ),
    );
  if (differs('markets')) found.push(other(`asked for in ${b.markets?.join(', ') ?? 'all markets'}`));
  if (differs('overrides')) found.push(other(`otherwise than before in ${overridden(a, b).map(say).join(', ')}`));
  return found;
}

/** Categories for which something else is said of an attribute than before. */
function overridden(a: ChannelAttribute, b: ChannelAttribute): string[] {
  const saidOf = ({ overrides = [] }: ChannelAttribute, path: string) =>
    overrides.filter((each) => each.in.includes(path)).map(({ in: _, ...said }) => said);
  const paths = [...(a.overrides ?? []), ...(b.overrides ?? [])].flatMap((each) => each.in);
  return [...new Set(paths)].filter((path) => !isSame(saidOf(a, path), saidOf(b, path)));
}

type Limit = keyof ChannelAttribute['limits'];

const keysOf = <T extends object>(a: T, b: T) => Object.keys({ ...a, ...b }) as (keyof T)[];

/** Whether less is taken than before: a limit where there was none, a nearer one, a shorter list. */
function wayOf(limit: Limit, before: unknown, after: unknown): Difference['way'] {
  if (before === undefined || before === false) return 'tighter';
  if (after === undefined || after === false) return 'looser';
  if (typeof before === 'number' && typeof after === 'number')
    return leastLimits.has(limit) === after > before ? 'tighter' : 'looser';
  if (Array.isArray(before) && Array.isArray(after)) {
    const holds = (list: readonly unknown[], rest: readonly unknown[]) => rest.every((one) => list.includes(one));
    return holds(before, after) ? 'tighter' : holds(after, before) ? 'looser' : 'other';
  }
  return 'other';
}

/** Limits from below: a larger one is tighter. */
const leastLimits: ReadonlySet<Limit> = new Set<Limit>([
  'minLength',
  'min',
  'minWidth',
  'minHeight',
  'minCount',
  'minRatio',
  'plainGround',
]);

const sayType = ({ type, many }: ChannelAttribute) => (many ? `a list of ${type}` : type);

const sayTerms = ({ terms }: ChannelAttribute) =>
  terms === undefined ? 'were free' : `are the account’s terms “${terms}”`;

const limitWords: Record<Limit, string> = {
  minLength: 'shortest length',
  maxLength: 'longest length',
  pattern: 'pattern',
  tags: 'markup it takes',
  values: 'allowed values',
  min: 'smallest number',
  max: 'largest number',
  units: 'units',
  minWidth: 'least width in pixels',
  minHeight: 'least height in pixels',
  maxCount: 'most values',
  minCount: 'least values',
  maxBytes: 'longest length in bytes',
  secure: 'https only',
  minRatio: 'least width to height',
  maxRatio: 'most width to height',
  formats: 'formats of pictures',
  plainGround: 'least plain ground, per cent',
};
