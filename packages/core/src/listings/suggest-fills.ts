/** Fills where names, types and roles agree: what a channel calls a field, and which of ours that is. */
import { type Sense, foldHeader, meanings } from '../catalog/index.js';
import type { Fill } from '../fills/index.js';
import type { ChannelAttribute, Rulebook } from '../rulebooks/index.js';
import { type Attribute, type Role, foldCode, keyOf, roles, withRole } from '../values/index.js';
import { sourcesFor } from './sources.js';

export interface SuggestedFill {
  fill: Fill;
  /** In words, what made us say so. */
  why: string;
}

/** Facts that are no attributes, by what they are. */
const facts: Partial<Record<Sense, string>> = {
  price: 'price',
  salePrice: 'salePrice',
  recommendedPrice: 'price',
  stock: 'stock',
  family: 'familyId',
  pictures: 'mainPicture',
  morePictures: 'morePictures',
};

const isRole = (sense: string): sense is Role => (roles as readonly string[]).includes(sense);

/** What a fill can copy for each attribute of a channel that is not set by the category map; none where nothing is sure. */
export function suggestFills(
  { attributes, exchange }: Rulebook,
  dictionary: ReadonlyMap<string, Attribute>,
): Map<string, SuggestedFill> {
  const suggested = new Map<string, SuggestedFill>();
  const isTaken = new Set<string>();
  for (const attribute of attributes) {
    if (attribute.type === 'category') continue;
    const sources = new Set(sourcesFor(attribute, dictionary).map(({ name }) => name));
    const found =
      attribute.key === exchange.itemKey
        ? { name: keyOf(dictionary, 'sku'), why: 'it names an item: our SKU' }
        : sourceOf(attribute, dictionary, isTaken);
    if (found?.name === undefined || !sources.has(found.name)) continue;
    const { name, why } = found;
    isTaken.add(name);
    const isMarkup = dictionary.get(name)?.type === 'richText';
    suggested.set(attribute.key, {
      fill: { rule: { kind: 'copy', from: name }, fit: isMarkup ? [{ do: 'plain-text' }] : [] },
      why,
    });
  }
  return suggested;
}

function sourceOf(
  { key, label, type }: ChannelAttribute,
  dictionary: ReadonlyMap<string, Attribute>,
  isTaken: ReadonlySet<string>,
): { name: string | undefined; why: string } | undefined {
  if (type === 'gtin') return { name: keyOf(dictionary, 'gtin'), why: 'it is a GTIN' };
  if (type === 'picture')
    return {
      name: isTaken.has('mainPicture') ? 'morePictures' : 'mainPicture',
      why: 'it is a picture',
    };
  for (const written of [label, key]) {
    const own = [...dictionary.values()].find(({ label: ours, aliases = [] }) =>
      [ours, ...aliases].some((name) => foldCode(name) === foldCode(written)),
    );
    if (own) return { name: own.role === 'pictures' ? 'mainPicture' : own.key, why: `our ${own.label} has this name` };
  }
  for (const written of [label, key]) {
    const phrase = foldHeader(written);
    for (const { sense } of [...(meanings.get(phrase) ?? []), ...(meanings.get(phrase.replaceAll(' ', '')) ?? [])]) {
      const name = nameFor(sense, type, dictionary);
      if (name !== undefined) return { name, why: `“${written}” is a word for ${sayOf(name, dictionary)}` };
    }
  }
  return undefined;
}

function nameFor(
  sense: Sense,
  type: ChannelAttribute['type'],
  dictionary: ReadonlyMap<string, Attribute>,
): string | undefined {
  if (type === 'money') return sense === 'purchasePrice' ? undefined : facts[sense];
  if (sense === 'key') return keyOf(dictionary, 'sku');
  if (facts[sense] !== undefined && (type === 'number') === (sense === 'stock')) return facts[sense];
  return isRole(sense) ? withRole(dictionary, sense)[0]?.key : undefined;
}

const sayOf = (name: string, dictionary: ReadonlyMap<string, Attribute>) => dictionary.get(name)?.label ?? name;
