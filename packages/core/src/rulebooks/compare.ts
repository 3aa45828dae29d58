/** What a new version of a rulebook changes, in words. */
import { askedDifferences, attributeDifferences, needWay } from './compare-attributes.js';
import { type Difference, isSame, other, sayChanged, sayValue } from './difference.js';
import { type ChannelAttribute, type Rulebook, attributesFor, namesOf } from './model.js';

/** Parts of a rulebook that are compared. */
export const rulebookParts = ['channel', 'market', 'category', 'attribute', 'rule', 'eligibility'] as const;

export interface RulebookChange {
  part: (typeof rulebookParts)[number];
  key: string;
  /** As people call it: a label, or the names from the root down. */
  name: string;
  /** `tightened`: all that is different asks for more or takes less; `loosened`: the other way round. */
  kind: 'added' | 'removed' | 'tightened' | 'loosened' | 'changed';
  /** Sentences; one a difference. */
  words: string[];
}

export function compareRulebooks(before: Rulebook, after: Rulebook): RulebookChange[] {
  const [namesBefore, namesAfter] = [namesOf(before), namesOf(after)];
  const known = new Set(after.categories.map(({ path }) => path));
  const say = (path: string) => (known.has(path) ? namesAfter : namesBefore)(path).join(' / ');
  return [
    ...compareKeyed(
      'channel',
      [before],
      [after],
      { keyOf: ({ channel }) => channel, nameOf: ({ name }) => name },
      wholeDifferences,
    ),
    ...compareKeyed(
      'market',
      before.markets,
      after.markets,
      { keyOf: ({ key }) => key, nameOf: ({ name }) => name },
      marketDifferences,
    ),
    ...compareKeyed(
      'category',
      before.categories,
      after.categories,
      { keyOf: ({ path }) => path, nameOf: ({ path }) => say(path) },
      (a, b) => (a.name === b.name ? [] : [other(`named “${b.name}”, was “${a.name}”`)]),
    ),
    ...compareKeyed('attribute', before.attributes, after.attributes, attributeNaming, (a, b) =>
      attributeDifferences(a, b, say),
    ),
    ...compareKeyed(
      'rule',
      rulesByCheck(before),
      rulesByCheck(after),
      { keyOf: ({ check }) => check, nameOf: ({ check }) => check },
      ruleDifferences,
    ),
    ...compareKeyed(
      'eligibility',
      before.eligibility,
      after.eligibility,
      { keyOf: ({ id }) => id, nameOf: ({ words }) => words },
      (a, b) => (isSame(a, b) ? [] : [other(b.words)]),
    ),
  ];
}

const attributeNaming: Naming<ChannelAttribute> = { keyOf: ({ key }) => key, nameOf: ({ label }) => label };

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
  return compareKeyed('attribute', asked(before), asked(after), attributeNaming, askedDifferences);
}

/** What is said of the channel as a whole. */
function wholeDifferences(a: Rulebook, b: Rulebook): Difference[] {
  const found: Difference[] = [];
  const compare = (was: unknown, is: unknown, words: string, way: Difference['way'] = 'other') => {
    if (!isSame(was, is)) found.push({ words, way });
  };
  const list = (what: string, was: readonly string[], is: readonly string[]) =>
    compare(was, is, `${what} ${sayChanged(was, is)}`);
  const named = ({ regions = [] }: Rulebook) => regions.map(({ name }) => name);
  const labelled = ({ terms = [] }: Rulebook) => terms.map(({ label }) => label);
  compare(
    a.categoryNeed,
    b.categoryNeed,
    `a category is now ${b.categoryNeed}, was ${a.categoryNeed}`,
    needWay(a.categoryNeed, b.categoryNeed),
  );
  if (b.leafOnly) compare(a.leafOnly, true, 'goods go into categories of the last level alone', 'tighter');
  else compare(a.leafOnly, false, 'goods may go into any category', 'looser');
  compare(a.secondCategory, b.secondCategory, `a further category ${sayChanged(a.secondCategory, b.secondCategory)}`);
  compare(a.joins, b.joins, `accounts join by ${b.joins ?? 'nothing'}, was ${a.joins ?? 'nothing'}`);
  list('regions', named(a), named(b));
  list('terms kept in an account', labelled(a), labelled(b));
  const [was, is] = [a.exchange, b.exchange];
  compare(
    was.itemKey,
    is.itemKey,
    `an item is named by “${is.itemKey}”, was “${was.itemKey}”: what stands there would be removed and sent anew`,
  );
  list('formats', was.formats, is.formats);
  compare([was.document, was.rows], [is.document, is.rows], 'files are laid out otherwise');
  return found;
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
  if (isSame(a, b)) return [];
  const [before, ...furtherBefore] = a.rules;
  const [after, ...furtherAfter] = b.rules;
  if (!before || !after || furtherBefore.length + furtherAfter.length > 0) return [other('its settings changed')];
  const settings = (rule: Rules['rules'][number]): Record<string, unknown> => ({ ...rule });
  const [was, is] = [settings(before), settings(after)];
  return [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((name) =>
    isSame(was[name], is[name]) ? [] : [settingDifference(name, was[name], is[name])],
  );
}

function settingDifference(name: string, was: unknown, is: unknown): Difference {
  if (was === undefined) return other(`${name} said, ${sayValue(is)}`);
  if (is === undefined) return other(`${name} no longer said, was ${sayValue(was)}`);
  return other(`${name} ${sayChanged(was, is)}`);
}

interface Naming<T> {
  keyOf(entry: T): string;
  /** For people. */
  nameOf(entry: T): string;
}

function compareKeyed<T>(
  part: RulebookChange['part'],
  before: readonly T[],
  after: readonly T[],
  { keyOf, nameOf }: Naming<T>,
  differences: (a: T, b: T) => Difference[],
): RulebookChange[] {
  const old = new Map(before.map((row) => [keyOf(row), row]));
  const now = new Map(after.map((row) => [keyOf(row), row]));
  const changes: RulebookChange[] = [];
  for (const [key, row] of now) {
    const was = old.get(key);
    const found = was === undefined ? [] : differences(was, row);
    if (was !== undefined && found.length === 0) continue;
    const kind = was === undefined ? 'added' : kindOf(found);
    changes.push({ part, key, name: nameOf(row), kind, words: found.map(({ words }) => words) });
  }
  for (const [key, row] of old)
    if (!now.has(key)) changes.push({ part, key, name: nameOf(row), kind: 'removed', words: [] });
  return changes;
}

function kindOf(differences: readonly Difference[]): RulebookChange['kind'] {
  // What is advised keeps nothing back.
  const telling = differences.filter(({ way }) => way !== 'advice');
  if (telling.length === 0) return 'changed';
  if (telling.every(({ way }) => way === 'tighter')) return 'tightened';
  return telling.every(({ way }) => way === 'looser') ? 'loosened' : 'changed';
}
