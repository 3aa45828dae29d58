/** Causes and findings in plain words. */
import { checkMeta } from '../checks/index.js';
import { type Finding, parseCause, slotOf } from '../listings/index.js';
import type { Rulebook } from '../rulebooks/index.js';
import { type Attribute, closedList, listOf, sayLabel } from '../values/index.js';

const offerLabels: Record<string, string> = {
  price: 'Price',
  salePrice: 'Sale price',
  stock: 'Stock',
  family: 'Family',
  options: 'Options',
};

export const catalogLabel = (key: string, dictionary: ReadonlyMap<string, Attribute>) =>
  offerLabels[key] ?? dictionary.get(key)?.label ?? key;

/** What is wrong with a value, by the check that says so. */
const faultOf = (check: string, otherwise: string) => checkMeta.get(check)?.fault ?? otherwise;

/** Our category by its key, as people read it. */
export function sayCategory(key: string, dictionary: ReadonlyMap<string, Attribute>): string {
  return listOf(dictionary, 'category').say(key);
}

/** Our word that has none on the channel, as people read it. */
export function sayOwnWord(
  { value, of }: { value: string; of?: string },
  dictionary: ReadonlyMap<string, Attribute>,
): string {
  const own = of === undefined ? undefined : dictionary.get(of);
  return (own && closedList(own)?.say(value)) ?? value;
}

/** A cause as a sentence: “Moorgrün” has no colour on that channel. Languages other than `home` are named. */
export function sayCause(
  key: string,
  dictionary: ReadonlyMap<string, Attribute>,
  rulebooks: readonly Rulebook[],
  channelName: string,
  home: string,
): string {
  const cause = parseCause(key);
  if (!cause) return key;
  const label = (attribute: string) =>
    rulebooks.flatMap((rulebook) => rulebook.attributes).find((row) => row.key === attribute)?.label ?? attribute;
  const inCategory = (at: { slot?: string; market: string }) => {
    const { category, preset } = slotOf(at);
    const name = rulebooks.flatMap((rulebook) => rulebook.categories).find(({ path }) => path === category)?.name;
    return `${category === '' ? '' : ` in ${name ?? category}`}${preset === null ? '' : ', by a preset'}`;
  };
  switch (cause.kind) {
    case 'map-category':
      return `No ${channelName} category for ${sayCategory(cause.category, dictionary)}`;
    case 'fill':
      return cause.check === undefined
        ? `Nothing fills ${label(cause.attribute)} on ${channelName}${inCategory(cause)}`
        : `${label(cause.attribute)} ${faultOf(cause.check, 'does not fit')} on ${channelName}${inCategory(cause)}`;
    case 'translate':
      return `“${sayOwnWord(cause, dictionary)}” has no ${label(cause.attribute).toLowerCase()} on ${channelName}${inCategory(cause)}`;
    case 'fit':
      return `${label(cause.attribute)} ${faultOf(cause.check, 'does not fit')} for ${channelName}${inCategory(cause)}`;
    case 'axis':
      return `Nothing tells variants apart on ${channelName}`;
    case 'pin':
      return `The pinned ${label(cause.attribute)} does not fit on ${channelName}`;
    case 'assortment':
      return `${channelName} takes fewer goods than it is to have`;
    case 'report':
      return `${channelName} answered: ${cause.code.replaceAll('-', ' ')}`;
    case 'catalog': {
      const name = `${catalogLabel(cause.attribute, dictionary)}${cause.language && cause.language !== home ? ` (${cause.language})` : ''}`;
      return cause.check ? `${name} ${faultOf(cause.check, 'does not pass')}` : `No ${sayLabel(name)} given`;
    }
  }
}

export function sayFinding(finding: Finding, rulebook: Rulebook): string {
  const label =
    rulebook.attributes.find((attribute) => attribute.key === finding.attribute)?.label ?? finding.attribute;
  const meta = checkMeta.get(finding.check);
  return meta ? meta.say(finding.params, label) : String(finding.params.message ?? finding.check);
}
