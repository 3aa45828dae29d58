/** An item as its blocks, whatever they are then written as. */
import type { Item } from '../../checks/index.js';
import type { ChannelAttribute, LayoutBlock, LayoutNode, Rulebook } from '../../rulebooks/index.js';
import { type FeedMeta, attributesByKey, textsOf } from './model.js';

/** A value with what stands beside it. */
export interface Piece {
  name: string;
  text: string;
  marks: [name: string, text: string][];
}

export interface Block {
  name: string;
  marks: [name: string, text: string][];
  /** The block's own value, or the pieces below its name. */
  own?: string;
  pieces: Piece[];
}

export type BlockReader = (item: Item) => Block[];

/** Compiles the document of an exchange; throws where the rulebook lays out none. */
export function compileBlocks(rulebook: Rulebook, { currency }: FeedMeta): BlockReader {
  const { document } = rulebook.exchange;
  if (!document) throw new Error(`${rulebook.name} has no layout for documents`);
  const byKey = attributesByKey(rulebook);
  const writers = new Map([...byKey].map(([key, attribute]) => [key, textsOf(attribute)]));
  const texts = (item: Item, attribute: string): readonly string[] => {
    const value = item[attribute];
    return value === undefined ? [] : (writers.get(attribute)?.(value) ?? []);
  };
  const marksOf = (item: Item, marks: LayoutNode['marks']): [string, string][] | undefined => {
    const found: [string, string][] = [];
    for (const [name, mark] of Object.entries(marks)) {
      const text = 'text' in mark ? mark.text : 'currency' in mark ? currency : texts(item, mark.attribute)[0];
      if (text !== undefined) found.push([name, text]);
      else if (!('optional' in mark && mark.optional)) return undefined;
    }
    return found;
  };
  const pieces = (item: Item, { name, attribute, marks }: LayoutNode): Piece[] => {
    const beside = marksOf(item, marks);
    return beside ? texts(item, attribute).map((text) => ({ name, text, marks: beside })) : [];
  };
  const read = (item: Item, block: LayoutBlock): Block[] => {
    const marks = marksOf(item, block.marks);
    if (!marks) return [];
    if ('attribute' in block)
      return texts(item, block.attribute).map((own) => ({ name: block.name, marks, own, pieces: [] }));
    const below = block.nodes.flatMap((node) => pieces(item, node));
    return below.length > 0 ? [{ name: block.name, marks, pieces: below }] : [];
  };
  return (item) => document.blocks.flatMap((block) => read(item, block));
}

const isList = (attribute: ChannelAttribute | undefined) => attribute?.type === 'picture' || attribute?.many === true;

/** Names that may stand several times in their block: several nodes have them, or their attribute is a list. */
export function listNames(rulebook: Rulebook): ReadonlySet<string> {
  const byKey = attributesByKey(rulebook);
  const lists = new Set<string>();
  for (const block of rulebook.exchange.document?.blocks ?? []) {
    const seen = new Set<string>();
    for (const { name, attribute } of 'nodes' in block ? block.nodes : []) {
      if (seen.has(name) || isList(byKey.get(attribute))) lists.add(`${block.name}/${name}`);
      seen.add(name);
    }
  }
  return lists;
}
