/** Which attribute of a channel asks for what another channel's does. */
import { fillSources } from '../fills/index.js';
import type { ChannelAttribute, Rulebook } from '../rulebooks/index.js';
import { type Attribute, foldCode } from '../values/index.js';
import type { PlacedFill } from './place.js';
import { suggestFills } from './suggest-fills.js';

/** Kinds of values that are written alike, and can stand for one another. */
const written: readonly ChannelAttribute['type'][] = ['text', 'choice', 'measure', 'number', 'boolean', 'date', 'link'];

const isAlike = (a: ChannelAttribute, b: ChannelAttribute): boolean =>
  a.type === b.type || (written.includes(a.type) && written.includes(b.type));

/** A channel as it is filled at a place. */
export interface Filled {
  rulebook: Rulebook;
  fills: readonly PlacedFill[];
}

/** What of ours each attribute is filled from, by its key; where it is not yet, what it could copy. */
function readBy({ rulebook, fills }: Filled, dictionary: ReadonlyMap<string, Attribute>): Map<string, string> {
  const held = fills.flatMap(({ attribute, category, fill }): [string, string][] => {
    const [from] = fillSources(fill.rule);
    return category === undefined && from !== undefined ? [[attribute, from]] : [];
  });
  const suggested = [...suggestFills(rulebook, dictionary)].flatMap(([key, { fill }]): [string, string][] =>
    fill.rule.kind === 'copy' ? [[key, fill.rule.from]] : [],
  );
  return new Map([...suggested, ...held]);
}

/**
 * For each attribute of `from`, by key, the one of `to` that asks for the same: of its key, else of its label, else filled
 * from the same of ours; none is chosen twice.
 */
export function alikeAttributes(
  from: Filled,
  to: Filled,
  dictionary: ReadonlyMap<string, Attribute>,
): Map<string, ChannelAttribute> {
  const [ours, theirs] = [readBy(from, dictionary), readBy(to, dictionary)];
  const tests: ((a: ChannelAttribute, b: ChannelAttribute) => boolean)[] = [
    (a, b) => a.key === b.key,
    (a, b) => foldCode(a.label) === foldCode(b.label),
    (a, b) => ours.get(a.key) !== undefined && ours.get(a.key) === theirs.get(b.key),
  ];
  const found = new Map<string, ChannelAttribute>();
  const taken = new Set<string>();
  for (const test of tests)
    for (const attribute of from.rulebook.attributes) {
      if (found.has(attribute.key) || attribute.type === 'category') continue;
      const match = to.rulebook.attributes.find(
        (each) => !taken.has(each.key) && each.type !== 'category' && isAlike(attribute, each) && test(attribute, each),
      );
      if (!match) continue;
      found.set(attribute.key, match);
      taken.add(match.key);
    }
  return found;
}
