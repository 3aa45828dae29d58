/** Every block a layout can have, in the order in which they are offered. */
import { z } from 'zod';
import { heading } from './heading.js';
import { list } from './list.js';
import { logo } from './logo.js';
import type { BlockKind, ReadSource } from './model.js';
import { picture } from './picture.js';
import { text } from './text.js';
import { words } from './words.js';

export const blockSchema = z.discriminatedUnion('block', [
  text.schema,
  list.schema,
  heading.schema,
  words.schema,
  picture.schema,
  logo.schema,
]);
export type Block = z.infer<typeof blockSchema>;

export const blocks: readonly BlockKind[] = [text, list, heading, words, picture, logo];

const byName = new Map(blocks.map((kind) => [kind.name, kind]));

function kindOf({ block }: { block: string }): BlockKind {
  const kind = byName.get(block);
  if (!kind) throw new Error(`There is no block “${block}”`);
  return kind;
}

export const blockSources = (block: Block): string[] => kindOf(block).reads(block);
export const isWholeBlock = (block: Block): boolean => kindOf(block).isWhole(block);
export const beginBlock = (name: string, given: { from: string; picture: string }): Block =>
  blockSchema.parse(kindOf({ block: name }).begin(given));
export const labelOfBlock = (block: Block): string => kindOf(block).label;

/** All blocks one below the other; a heading stands only over something. Undefined where the goods have nothing for any. */
export function renderBlocks(list: readonly Block[], read: ReadSource): string | undefined {
  const parts: string[] = [];
  let hasGoods = false;
  let waiting: string | undefined;
  for (const block of list) {
    const part = kindOf(block).render(block, read);
    if (part === undefined) continue;
    if (block.block === 'heading') {
      waiting = part;
      continue;
    }
    if (waiting !== undefined) parts.push(waiting);
    waiting = undefined;
    parts.push(part);
    hasGoods ||= blockSources(block).length > 0;
  }
  return hasGoods ? parts.join('') : undefined;
}
