/** Values that the texts of goods say: found anew whenever somebody looks, kept nowhere. */
import type { ProposalAnswer } from '@velvet-shelf/contract';
import type { Slots } from '@velvet-shelf/core/claims';
import { type Found, compileExtractor, soughtOf, valueOfFound } from '@velvet-shelf/core/enrichment';
import {
  type Attribute,
  type Measure,
  type Value,
  closedList,
  formatValue,
  keyOf,
  plainText,
  plainValue,
  withRole,
} from '@velvet-shelf/core/values';
import type { ProductRow } from '../catalog/draft.js';
import { explainProduct, typedText } from '../catalog/product.js';
import type { Database } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';

/** What stands around the words, in characters. */
const around = 40;

interface Said {
  found: Found;
  language: string;
  text: string;
}

/** The likeliest first. What a person said of an attribute stays, and is not asked about. */
export async function proposalsFor(db: Database, id: number, locale?: string): Promise<ProposalAnswer[]> {
  const dictionary = await loadDictionary(db, locale);
  const { product, slots } = await explainProduct(db, id, dictionary);
  return proposing(dictionary)(product.kind, slots);
}

export type Proposing = (kind: ProductRow['kind'], slots: Slots) => ProposalAnswer[];

/** What texts of goods propose by a dictionary; what finds values is compiled once for all goods of which the same is asked. */
export function proposing(dictionary: Dictionary): Proposing {
  const { attributes, languages } = dictionary;
  const compiled = new Map<string, Extract>();
  const extractorFor = (open: readonly Attribute[], brands: string[]): Extract => {
    const key = JSON.stringify([open.map(({ key: name }) => name), brands]);
    const known = compiled.get(key);
    if (known) return known;
    if (compiled.size >= mostCompiled) compiled.clear();
    const made = compileExtractor({ attributes: soughtOf(open), brands, languages });
    compiled.set(key, made);
    return made;
  };
  return (kind, slots) => {
    const open = [...attributes.values()].filter(
      ({ key, level }) =>
        (kind === 'single' || level === (kind === 'family' ? 'family' : 'variant')) &&
        slots.get(key)?.origin.from !== 'edit',
    );
    const best = new Map<string, Said>();
    for (const said of read(extractorFor(open, brandsIn(slots, attributes)), slots, dictionary))
      if (said.found.score > (best.get(said.found.attribute)?.found.score ?? 0)) best.set(said.found.attribute, said);
    return [...best.values()].flatMap((said) => propose(said, slots, dictionary)).sort((x, y) => y.score - x.score);
  };
}

type Extract = ReturnType<typeof compileExtractor>;
/** Extractors kept at once: goods differ in what is open, and in their makers. */
const mostCompiled = 64;

function read(extract: Extract, slots: Slots, { attributes, languages }: Dictionary): Said[] {
  const textOf = (role: 'title' | 'description', language: string): string => {
    const value = slots.get(`${keyOf(attributes, role) ?? ''}@${language}`)?.value;
    return typeof value === 'string' ? plainText(value) : '';
  };
  return languages.flatMap((language) => {
    const [title, description] = [textOf('title', language), textOf('description', language)];
    if (title === '' && description === '') return [];
    return extract({ title, description, language }).map((found) => ({
      found,
      language,
      text: found.in === 'title' ? title : description,
    }));
  });
}

/** Names of makers: all of the list where there is one, else the product’s own. */
function brandsIn(slots: Slots, attributes: Dictionary['attributes']): string[] {
  return withRole(attributes, 'brand').flatMap((brand) => {
    const list = closedList(brand);
    if (list) return list.values.flatMap(({ names }) => Object.values(names));
    const own = slots.get(brand.key)?.value;
    return typeof own === 'string' ? [own] : [];
  });
}

/** The words with some of what stands around them, cut between words. */
function excerpt(text: string, { start, end }: Found) {
  const [from, to] = [Math.max(0, start - around), Math.min(text.length, end + around)];
  const before = text.slice(from, start);
  const after = text.slice(end, to);
  return {
    before: from === 0 ? before : before.replace(/^\S*\s/u, '… '),
    words: text.slice(start, end),
    after: to === text.length ? after : after.replace(/\s\S*$/u, ' …'),
  };
}

/** Rounding to other units makes no other measure: “12 L” and 21.1 pints. */
const nearly = 0.01;

function saysSame(held: Value, found: Value, attribute: Attribute): boolean {
  if (isMeasure(held) && isMeasure(found)) return Math.abs(held.base - found.base) <= nearly * Math.abs(found.base);
  return plainValue(held, attribute) === plainValue(found, attribute);
}

const isMeasure = (value: Value): value is Measure => typeof value === 'object' && 'base' in value;

function propose({ found, language, text }: Said, slots: Slots, dictionary: Dictionary): ProposalAnswer[] {
  const attribute = dictionary.attributes.get(found.attribute);
  const value = attribute && valueOfFound(found.value, attribute);
  if (!attribute || value === undefined) return [];
  const held = slots.get(attribute.key)?.value;
  if (held !== undefined && saysSame(held, value, attribute)) return [];
  return [
    {
      attribute: attribute.key,
      label: attribute.label,
      text: typedText(value, attribute),
      shown: formatValue(value, attribute, dictionary.reader),
      held: held === undefined ? null : typedText(held, attribute),
      score: found.score,
      evidence: {
        language,
        in: found.in,
        ...excerpt(text, found),
      },
    },
  ];
}
