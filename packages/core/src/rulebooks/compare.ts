/** What a new version of a rulebook changes, in words. */
import type { ChannelAttribute, Rulebook } from './model.js';

export interface RulebookChange {
  part: 'category' | 'attribute' | 'rule' | 'eligibility';
  key: string;
  kind: 'added' | 'removed' | 'changed';
  /** Sentences; one a difference. */
  words: string[];
}

export function compareRulebooks(before: Rulebook, after: Rulebook): RulebookChange[] {
  return [
    ...compareKeyed(
      'category',
      before.categories,
      after.categories,
      (row) => row.path,
      (a, b) => (a.name === b.name ? [] : [`named “${b.name}”, was “${a.name}”`]),
    ),
    ...compareKeyed('attribute', before.attributes, after.attributes, (row) => row.key, attributeWords),
    ...compareKeyed(
      'rule',
      rulesByCheck(before),
      rulesByCheck(after),
      (row) => row.check,
      (a, b) => (JSON.stringify(a) === JSON.stringify(b) ? [] : ['its settings changed']),
    ),
    ...compareKeyed(
      'eligibility',
      before.eligibility,
      after.eligibility,
      (row) => row.id,
      (a, b) => (JSON.stringify(a) === JSON.stringify(b) ? [] : [b.words]),
    ),
  ];
}

/** The rules of each check together: there may be several of one. */
const rulesByCheck = ({ rules }: Rulebook) =>
  [...new Set(rules.map(({ check }) => check))].map((check) => ({
    check,
    rules: rules.filter((rule) => rule.check === check),
  }));

function compareKeyed<T>(
  part: RulebookChange['part'],
  before: readonly T[],
  after: readonly T[],
  keyOf: (entry: T) => string,
  differences: (a: T, b: T) => string[],
): RulebookChange[] {
  const old = new Map(before.map((row) => [keyOf(row), row]));
  const now = new Map(after.map((row) => [keyOf(row), row]));
  const changes: RulebookChange[] = [];
  for (const [key, row] of now) {
    const was = old.get(key);
    if (was === undefined) changes.push({ part, key, kind: 'added', words: [] });
    else {
      const words = differences(was, row);
      if (words.length > 0) changes.push({ part, key, kind: 'changed', words });
    }
  }
  for (const key of old.keys()) if (!now.has(key)) changes.push({ part, key, kind: 'removed', words: [] });
  return changes;
}

function attributeWords(a: ChannelAttribute, b: ChannelAttribute): string[] {
  const words: string[] = [];
  if (a.need !== b.need) words.push(`now ${b.need}, was ${a.need}`);
  const say = (value: unknown) =>
    Array.isArray(value) ? `${value.length} values` : value === undefined ? 'none' : String(value);
  for (const key of Object.keys({ ...a.limits, ...b.limits }) as (keyof ChannelAttribute['limits'])[])
    if (JSON.stringify(a.limits[key]) !== JSON.stringify(b.limits[key]))
      words.push(`${limitWords[key]} now ${say(b.limits[key])}, was ${say(a.limits[key])}`);
  if (JSON.stringify(a.requiredIn) !== JSON.stringify(b.requiredIn))
    words.push(`required in ${b.requiredIn?.join(', ') ?? 'no category of its own'}`);
  if (a.type !== b.type || a.many !== b.many) words.push(`now ${sayType(b)}, was ${sayType(a)}`);
  if (JSON.stringify(a.requiredWhen) !== JSON.stringify(b.requiredWhen))
    words.push(b.requiredWhen ? 'required of other items than before' : 'no longer required of some items');
  if (JSON.stringify(a.categories) !== JSON.stringify(b.categories)) words.push('asked for in other categories');
  if (JSON.stringify(a.advised) !== JSON.stringify(b.advised))
    words.push(`best length now ${sayAdvised(b)}, was ${sayAdvised(a)}`);
  if (JSON.stringify(a.overrides) !== JSON.stringify(b.overrides))
    words.push('otherwise in other categories than before');
  return words;
}

const sayType = ({ type, many }: ChannelAttribute) => (many ? `a list of ${type}` : type);

const sayAdvised = ({ advised }: ChannelAttribute) =>
  advised ? `${advised.minLength ?? 0}–${advised.maxLength ?? '…'} characters` : 'none';

const limitWords: Record<keyof ChannelAttribute['limits'], string> = {
  minLength: 'shortest length',
  maxLength: 'longest length',
  pattern: 'pattern',
  values: 'allowed values',
  min: 'smallest number',
  max: 'largest number',
  units: 'units',
  minWidth: 'least width in pixels',
  minHeight: 'least height in pixels',
  maxCount: 'most values',
};
