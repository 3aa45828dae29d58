/** One text of many goods, composed of what each of them holds. */
import { type ComposedAnswer, type Effect, type WantedText, mostBulk } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { currentSlot, splitSlot } from '@velvet-shelf/core/claims';
import { compose, optionsSource, varied } from '@velvet-shelf/core/enrichment';
import { type Attribute, type Reader, formatValue, identifyingRoles, plainText } from '@velvet-shelf/core/values';
import { chosenGoods } from '../catalog/chosen.js';
import { type ProductEdits, saveEdits } from '../catalog/edit.js';
import { heldBy } from '../catalog/held.js';
import { typedText } from '../catalog/product.js';
import type { Executor } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { noEffect } from '../history/effect.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';

const mostExamples = 10;

interface ComposedText {
  id: number;
  unit: number;
  sku: string | null;
  before: string | null;
  text: string;
  kind: string;
}

/** What it would be for each of the goods: of the family where the attribute is the family's, else of each variant. */
async function composeAll(
  on: Executor,
  { chosen, attribute: key, language, parts }: WantedText,
  dictionary: Dictionary,
): Promise<{ attribute: Attribute; texts: ComposedText[] }> {
  const attribute = dictionary.attributes.get(key);
  if (!attribute || isComputed(attribute.key)) throw badRequest(`There is no attribute “${key}” to write`);
  if (attribute.type !== 'text' && attribute.type !== 'richText')
    throw badRequest(`${attribute.label} is no text: choose one that is`);
  if (attribute.role && identifyingRoles.has(attribute.role))
    throw badRequest(`${attribute.label} names one thing alone: it is not composed`);
  const spoken = attribute.perLanguage ? (language ?? dictionary.home) : null;
  if (spoken !== null && !dictionary.languages.includes(spoken)) throw badRequest(`Texts are not kept in ${spoken}`);
  const own = spoken === null ? attribute.key : `${attribute.key}@${spoken}`;
  const unknown = parts.find(({ of }) => of !== null && of !== optionsSource && !knows(of, dictionary));
  if (unknown) throw badRequest(`There is no value “${unknown.of ?? ''}” to take`);
  if (parts.some(({ of }) => of !== null && currentSlot(of, dictionary.merged) === own))
    throw badRequest('A text is not made of itself: each time it would be longer');
  const { variants, units } = await chosenGoods(on, chosen);
  const goods = attribute.level === 'family' ? units : variants;
  if (goods.length > mostBulk)
    throw badRequest(`${goods.length} are chosen; ${mostBulk} can be given a text at once. Choose fewer`);
  const held = await heldBy(on, goods, dictionary);
  const reader: Reader = spoken === null ? dictionary.reader : { locale: spoken, names: spoken };
  const texts = goods.map((id) => {
    const { product, slots } = held(id);
    const filled = parts.map(({ of }) => of !== null && sayPart(of) !== undefined);
    function sayPart(source: string): string | undefined {
      if (source === optionsSource) return product.options.map(([, value]) => value).join(', ');
      const slot = currentSlot(source, dictionary.merged);
      const part = dictionary.attributes.get(splitSlot(slot)[0]);
      const value = slots.get(slot)?.value;
      if (!part || value === undefined) return undefined;
      const text = formatValue(value, part, reader);
      return part.type === 'richText' ? plainText(text) : text;
    }
    const value = slots.get(own)?.value;
    return {
      id,
      unit: product.unit_id,
      sku: product.sku,
      before: value === undefined ? null : typedText(value, attribute),
      text: compose(parts, sayPart),
      kind: `${product.category ?? ''} ${filled.map(Number).join('')}`,
    };
  });
  return { attribute, texts };
}

const knows = (source: string, { attributes, merged }: Dictionary): boolean =>
  attributes.has(splitSlot(currentSlot(source, merged))[0]);

export async function tryComposing(on: Executor, wanted: WantedText): Promise<ComposedAnswer> {
  const { texts } = await composeAll(on, wanted, await loadDictionary(on));
  const filled = texts.filter(({ text }) => text !== '');
  const unitsOf = new Map<string, Set<number>>();
  for (const { text, unit } of filled) unitsOf.set(text, (unitsOf.get(text) ?? new Set()).add(unit));
  return {
    goods: texts.length,
    changed: filled.filter(({ text, before }) => text !== before).length,
    empty: texts.length - filled.length,
    alike: filled.filter(({ text }) => (unitsOf.get(text)?.size ?? 0) > 1).length,
    longest: filled.reduce((most, { text }) => Math.max(most, [...text].length), 0),
    examples: varied(filled, mostExamples).map(({ id, sku, before, text }) => ({ id, sku, before, after: text })),
  };
}

export async function saveComposed(
  services: Services,
  user: User,
  wanted: WantedText,
): Promise<Effect & { goods: number }> {
  const { attribute, texts } = await composeAll(services.db, wanted, await loadDictionary(services.db));
  const language = attribute.perLanguage ? wanted.language : null;
  const edits = texts.flatMap(({ id, before, text }): ProductEdits[] =>
    text === '' || text === before
      ? []
      : [{ productId: id, edits: [{ attribute: attribute.key, language, text, madeAgainst: before }] }],
  );
  if (edits.length === 0) return { ...noEffect(), goods: 0 };
  const words = `Composed ${attribute.label} of ${edits.length} ${edits.length === 1 ? 'product' : 'products'}`;
  return { ...(await saveEdits(services, user, edits, words)), goods: edits.length };
}
