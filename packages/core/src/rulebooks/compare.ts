/** What a new version of a rulebook changes, in words. */
import { type ChannelAttribute, type Rulebook, attributesFor } from './model.js';

/** Parts of a rulebook that are compared. */
export const rulebookParts = ['market', 'category', 'attribute', 'rule', 'eligibility'] as const;

export interface RulebookChange {
  part: (typeof rulebookParts)[number];
  key: string;
  /** `tightened`: all that is different asks for more or takes less; `loosened`: the other way round. */
  kind: 'added' | 'removed' | 'tightened' | 'loosened' | 'changed';
  /** Sentences; one a difference. */
  words: string[];
}

/** One difference: whether more is asked for, less, or something else. */
interface Difference {
  words: string;
  way: 'tighter' | 'looser' | 'other' | 'advice';
}

const other = (words: string): Difference => ({ words, way: 'other' });

export function compareRulebooks(before: Rulebook, after: Rulebook): RulebookChange[] {
  return [
    ...compareKeyed('market', before.markets, after.markets, (row) => row.key, marketDifferences),
    ...compareKeyed(
      'category',
      before.categories,
      after.categories,
      (row) => row.path,
      (a, b) => (a.name === b.name ? [] : [other(`named “${b.name}”, was “${a.name}”`)]),
    ),
    ...compareKeyed('attribute', before.attributes, after.attributes, (row) => row.key, attributeDifferences),
    ...compareKeyed('rule', rulesByCheck(before), rulesByCheck(after), (row) => row.check, ruleDifferences),
    ...compareKeyed(
      'eligibility',
      before.eligibility,
      after.eligibility,
      (row) => row.id,
      (a, b) => (JSON.stringify(a) === JSON.stringify(b) ? [] : [other(b.words)]),
    ),
  ];
}

/**
 * What is asked otherwise of goods in one category: attributes as they hold there, with all that is said for that category
 * alone. Nothing where the category is in one of the versions only.
 */
export function compareInCategory(
  before: Rulebook,
  after: Rulebook,
  { category, market }: { category: string; market: string },
): RulebookChange[] {
  const isIn = ({ categories }: Rulebook) => categories.some(({ path }) => path === category);
  if (!isIn(before) || !isIn(after)) return [];
  const asked = (rulebook: Rulebook) => attributesFor(rulebook, category, market);
  return compareKeyed('attribute', asked(before), asked(after), ({ key }) => key, askedDifferences);
}

type Market = Rulebook['markets'][number];

function marketDifferences(a: Market, b: Market): Difference[] {
  const fields = ['name', 'country', 'language', 'currency', 'region'] as const;
  return fields.flatMap((field) =>
    a[field] === b[field] ? [] : [other(`${field} now ${b[field] ?? 'none'}, was ${a[field] ?? 'none'}`)],
  );
}

/** The rules of each check together: there may be several of one. */
const rulesByCheck = ({ rules }: Rulebook) =>
  [...new Set(rules.map(({ check }) => check))].map((check) => ({
    check,
    rules: rules.filter((rule) => rule.check === check),
  }));

type Rules = ReturnType<typeof rulesByCheck>[number];

/** Settings of a check that is ruled once in both; of one that is ruled several times, that they changed. */
function ruleDifferences(a: Rules, b: Rules): Difference[] {
  if (JSON.stringify(a) === JSON.stringify(b)) return [];
  const [before, ...furtherBefore] = a.rules;
  const [after, ...furtherAfter] = b.rules;
  if (!before || !after || furtherBefore.length + furtherAfter.length > 0) return [other('its settings changed')];
  const settings = (rule: Rules['rules'][number]): Record<string, unknown> => ({ ...rule });
  const [was, is] = [settings(before), settings(after)];
  return [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((name) =>
    JSON.stringify(was[name]) === JSON.stringify(is[name]) ? [] : [settingDifference(name, was[name], is[name])],
  );
}

function settingDifference(name: string, was: unknown, is: unknown): Difference {
  if (was === undefined) return other(`${name} said, ${saySetting(is)}`);
  if (is === undefined) return other(`${name} no longer said, was ${saySetting(was)}`);
  if (!Array.isArray(was) || !Array.isArray(is)) return other(`${name} now ${saySetting(is)}, was ${saySetting(was)}`);
  const without = (list: readonly unknown[], but: readonly unknown[]) => {
    const known = new Set(but.map((each) => JSON.stringify(each)));
    return list.filter((each) => !known.has(JSON.stringify(each)));
  };
  const [more, fewer] = [without(is, was), without(was, is)];
  const parts = [
    ...(more.length > 0 ? [`with ${saySetting(more)}`] : []),
    ...(fewer.length > 0 ? [`without ${saySetting(fewer)}`] : []),
  ];
  return other(parts.length > 0 ? `${name} now ${parts.join(', ')}` : `${name} in another order`);
}

const mostSaid = 5;

function saySetting(value: unknown): string {
  if (Array.isArray(value)) {
    const said = value.slice(0, mostSaid).map(saySetting).join(', ');
    return value.length > mostSaid ? `${said} and ${value.length - mostSaid} more` : said;
  }
  return typeof value === 'string' ? `“${value}”` : JSON.stringify(value);
}

function compareKeyed<T>(
  part: RulebookChange['part'],
  before: readonly T[],
  after: readonly T[],
  keyOf: (entry: T) => string,
  differences: (a: T, b: T) => Difference[],
): RulebookChange[] {
  const old = new Map(before.map((row) => [keyOf(row), row]));
  const now = new Map(after.map((row) => [keyOf(row), row]));
  const changes: RulebookChange[] = [];
  for (const [key, row] of now) {
    const was = old.get(key);
    if (was === undefined) changes.push({ part, key, kind: 'added', words: [] });
    else {
      const found = differences(was, row);
      if (found.length > 0) changes.push({ part, key, kind: kindOf(found), words: found.map(({ words }) => words) });
    }
  }
  for (const key of old.keys()) if (!now.has(key)) changes.push({ part, key, kind: 'removed', words: [] });
  return changes;
}

function kindOf(differences: readonly Difference[]): RulebookChange['kind'] {
  // What is advised keeps nothing back.
  const telling = differences.filter(({ way }) => way !== 'advice');
  if (telling.length === 0) return 'changed';
  if (telling.every(({ way }) => way === 'tighter')) return 'tightened';
  return telling.every(({ way }) => way === 'looser') ? 'loosened' : 'changed';
}

const needs: readonly ChannelAttribute['need'][] = ['optional', 'recommended', 'required'];

/** What differs of an attribute as it is asked, wherever that is said. */
function askedDifferences(a: ChannelAttribute, b: ChannelAttribute): Difference[] {
  const found: Difference[] = [];
  const differs = (key: keyof ChannelAttribute) => JSON.stringify(a[key]) !== JSON.stringify(b[key]);
  if (a.need !== b.need)
    found.push({
      words: `now ${b.need}, was ${a.need}`,
      way: needs.indexOf(b.need) > needs.indexOf(a.need) ? 'tighter' : 'looser',
    });
  const say = (value: unknown) =>
    Array.isArray(value) ? `${value.length} values` : value === undefined ? 'none' : String(value);
  for (const key of Object.keys({ ...a.limits, ...b.limits }) as Limit[])
    if (JSON.stringify(a.limits[key]) !== JSON.stringify(b.limits[key]))
      found.push({
        words: `${limitWords[key]} now ${say(b.limits[key])}, was ${say(a.limits[key])}`,
        way: wayOf(key, a.limits[key], b.limits[key]),
      });
  if (a.type !== b.type || a.many !== b.many) found.push(other(`now ${sayType(b)}, was ${sayType(a)}`));
  if (differs('requiredWhen'))
    found.push({
      words: b.requiredWhen ? 'required of other items than before' : 'no longer required of some items',
      way: !b.requiredWhen ? 'looser' : !a.requiredWhen ? 'tighter' : 'other',
    });
  if (differs('advised'))
    found.push({ words: `best length now ${sayAdvised(b)}, was ${sayAdvised(a)}`, way: 'advice' });
  return found;
}

/** The same, with where it is asked. */
function attributeDifferences(a: ChannelAttribute, b: ChannelAttribute): Difference[] {
  const found = askedDifferences(a, b);
  const differs = (key: keyof ChannelAttribute) => JSON.stringify(a[key]) !== JSON.stringify(b[key]);
  if (differs('requiredIn'))
    found.push({
      words: `required in ${b.requiredIn?.join(', ') ?? 'no category of its own'}`,
      way: wayOf('values', b.requiredIn ?? [], a.requiredIn ?? []),
    });
  if (differs('categories')) found.push(other('asked for in other categories'));
  if (differs('overrides')) found.push(other('otherwise in other categories than before'));
  return found;
}

type Limit = keyof ChannelAttribute['limits'];

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

const sayAdvised = ({ advised }: ChannelAttribute) =>
  advised ? `${advised.minLength ?? 0}–${advised.maxLength ?? '…'} characters` : 'none';

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
