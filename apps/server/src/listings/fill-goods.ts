/** The goods behind a part of a fill's bar: a page of them at a time. */
import type { FillPart, FillSample } from '@velvet-shelf/contract';
import { notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { type WalkInput, partKey, partOf, refusalOf, sampleOf, walkFills } from './fill-walk.js';

export interface GoodsInput extends WalkInput {
  attribute: string;
  part: 'refused' | 'empty' | FillPart;
  after: number;
}

/** Goods a page shows; it ends with a whole family. */
const aPage = 50;

export async function goodsOfFill(
  services: Services,
  { attribute: key, part, after, ...input }: GoodsInput,
): Promise<{ items: FillSample[]; next: number | null }> {
  const walk = await walkFills(services, input);
  const attribute = walk.compiled.setup.rulebook.attributes.find((row) => row.key === key);
  if (!attribute) throw notFound(`attribute “${key}”`);
  const wanted = typeof part === 'string' ? part : partKey(part);
  const items: FillSample[] = [];
  let last = after;
  for await (const walked of walk.listings(after)) {
    const { family, result, isWithin } = walked;
    if (items.length >= aPage && family.id !== last) return { items, next: last };
    last = family.id;
    if (!isWithin || result.standing !== 'in') continue;
    if (!walk.compiled.attributes(result.category).some((asked) => asked.key === key)) continue;
    const isEmpty = result.values[key] === undefined;
    const isOf =
      wanted === 'empty'
        ? isEmpty
        : wanted === 'refused'
          ? refusalOf(result, key) !== undefined
          : !isEmpty && partKey(partOf(walked.giving(key))) === wanted;
    if (isOf) items.push(sampleOf(walk, walked, attribute));
  }
  return { items, next: null };
}
