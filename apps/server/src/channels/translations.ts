/** Words of ours that a channel’s list has none for: ranked by the goods that have them, each with what it may be there. */
import type { SuggestedValue, WordToTranslate } from '@velvet-shelf/contract';
import { type OwnWord, compileTranslator } from '@velvet-shelf/core/translations';
import { type Attribute, closedList } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Executor, queryRows } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { notFound } from '../http/problem.js';
import { getPlace, rulebookOf } from './places.js';

const mostSuggested = 3;
/** Ranked by goods: beyond these nobody translates by hand. */
const mostWords = 500;

/** A value as people write it, with what else it is called: its names in other languages and its spellings. */
function ownWord(value: string, attribute: Attribute | undefined): OwnWord {
  const listed = attribute && closedList(attribute)?.values.find(({ key }) => key === value);
  if (!listed) return { word: value, others: [] };
  const [word = value, ...names] = Object.values(listed.names);
  return { word, others: [...names, ...(listed.spellings ?? [])] };
}

async function translatorFor(on: Executor, placeId: number, key: string, attribute: Attribute | undefined) {
  const place = await getPlace(on, placeId);
  const theirs = (await rulebookOf(on, place)).attributes.find((one) => one.key === key);
  if (!theirs) throw notFound(`attribute “${key}” on ${place.channelName}`);
  return compileTranslator({
    values: theirs.limits.values ?? [],
    language: place.language,
    isColour: attribute?.role === 'colour',
  });
}

/** What one value may be on the list of a channel’s attribute; `of`: the attribute of ours whose list it stands on by its key. */
export async function suggestValue(
  on: Executor,
  { place, attribute, value, of }: { place: number; attribute: string; value: string; of?: string | undefined },
): Promise<SuggestedValue[]> {
  const own = of === undefined ? undefined : (await loadDictionary(on)).attributes.get(of);
  return (await translatorFor(on, place, attribute, own))(ownWord(value, own), mostSuggested);
}

/** Every value that goods listed at a place have of an attribute of ours, most goods first. */
export async function wordsToTranslate(
  on: Executor,
  { place, attribute, from }: { place: number; attribute: string; from: string },
): Promise<WordToTranslate[]> {
  const own = (await loadDictionary(on)).attributes.get(from);
  if (!own || own.many || own.perLanguage || (own.type !== 'text' && own.type !== 'choice')) return [];
  const suggest = await translatorFor(on, place, attribute, own);
  const found = await queryRows<{ value: string; goods: number }>(
    on,
    sql`SELECT p.facts ->> ${own.key} AS value, count(*)::int AS goods FROM listing l JOIN product p ON p.id = l.variant_id
        WHERE l.place_id = ${place} AND p.facts ->> ${own.key} IS NOT NULL GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT ${mostWords}`,
  );
  return found.map(({ value, goods }) => {
    const word = ownWord(value, own);
    return { value, name: word.word, goods, suggestions: suggest(word, mostSuggested) };
  });
}
