/** One value for many goods: said of the family where the attribute is the family's, else of each variant. */
import { type BulkSaid, type Effect, type TriedEffect, mostBulk } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { identifyingRoles } from '@velvet-shelf/core/values';
import type { Executor } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { noEffect } from '../history/effect.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { chosenGoods } from './chosen.js';
import { type ProductEdits, saveEdits, tryEdits } from './edit.js';
import { heldBy } from './held.js';
import { typedText } from './product.js';

/** Edits of those that do not hold the value yet, with how many goods are meant and how many of them hold another one. */
interface Meant {
  edits: ProductEdits[];
  goods: number;
  others: number;
  label: string;
}

async function meantBy(on: Executor, said: BulkSaid, dictionary: Dictionary): Promise<Meant> {
  const attribute = dictionary.attributes.get(said.attribute);
  if (!attribute || isComputed(attribute.key)) throw badRequest(`There is no attribute “${said.attribute}” to set`);
  if (attribute.role && identifyingRoles.has(attribute.role))
    throw badRequest(`${attribute.label} names one thing alone: no two can have the same`);
  const { variants, units } = await chosenGoods(on, said.chosen);
  const goods = attribute.level === 'family' ? units : variants;
  if (goods.length > mostBulk)
    throw badRequest(`${goods.length} are chosen; ${mostBulk} can be given a value at once. Choose fewer`);
  const language = attribute.perLanguage ? (said.language ?? dictionary.home) : null;
  const slot = language === null ? attribute.key : `${attribute.key}@${language}`;
  const held = await heldBy(on, goods, dictionary);
  const current = goods.map((id) => {
    const value = held(id).slots.get(slot)?.value;
    return { id, text: value === undefined ? null : typedText(value, attribute) };
  });
  const changed = current.filter(({ text }) => text !== said.text);
  return {
    edits: changed.map(({ id, text }) => ({
      productId: id,
      edits: [{ attribute: attribute.key, language, text: said.text, madeAgainst: text }],
    })),
    goods: goods.length,
    others: changed.filter(({ text }) => text !== null).length,
    label: attribute.label,
  };
}

export async function sayOfMany(services: Services, user: User, said: BulkSaid): Promise<Effect & { goods: number }> {
  const { edits, label } = await meantBy(services.db, said, await loadDictionary(services.db));
  if (edits.length === 0) return { ...noEffect(), goods: 0 };
  const words = `Set ${label} of ${edits.length} ${edits.length === 1 ? 'product' : 'products'}`;
  return { ...(await saveEdits(services, user, edits, words)), goods: edits.length };
}

export async function trySayingOfMany(
  services: Pick<Services, 'db' | 'config'>,
  user: Pick<User, 'id'>,
  said: BulkSaid,
): Promise<TriedEffect & { goods: number; others: number }> {
  const { edits, goods, others } = await meantBy(services.db, said, await loadDictionary(services.db));
  if (edits.length === 0) return { ...noEffect(), whole: true, goods, others };
  return { ...(await tryEdits(services, user, edits)), goods, others };
}
