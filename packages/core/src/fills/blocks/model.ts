/** What a block of a layout is. One file a block; index.ts lists them. */
import type { ZodType } from 'zod';
import type { ChannelValue } from '../../rulebooks/index.js';

/** What a block reads: the label of a source, and its value; undefined where there is none. */
export type ReadSource = (name: string) => { label: string; value: ChannelValue } | undefined;

interface BlockDefinition<Block> {
  /** Its name in a layout: `block`. */
  name: string;
  /** As it is offered. */
  label: string;
  schema: ZodType<Block>;
  /** Sources it reads. */
  reads(block: Block): string[];
  /** Its beginning in an editor; `from` is a source of text, `picture` one of pictures. */
  begin(given: { from: string; picture: string }): Block;
  isWhole(block: Block): boolean;
  /** As markup; undefined where the goods have nothing for it. */
  render(block: Block, read: ReadSource): string | undefined;
}

/** A block whatever its settings, as those know it who work on a whole layout. */
export interface BlockKind {
  name: string;
  label: string;
  reads(block: unknown): string[];
  begin(given: { from: string; picture: string }): unknown;
  isWhole(block: unknown): boolean;
  render(block: unknown, read: ReadSource): string | undefined;
}

/** The index asks a kind about blocks of its own kind only. */
export const defineBlock = <Schema extends ZodType>(
  block: Omit<BlockDefinition<Schema['_output']>, 'schema'> & { schema: Schema },
): BlockKind & { schema: Schema } => {
  const own = (given: unknown) => given as Schema['_output'];
  return {
    ...block,
    reads: (given) => block.reads(own(given)),
    isWhole: (given) => block.isWhole(own(given)),
    render: (given, read) => block.render(own(given), read),
  };
};

export const longestWords = 4000;
export const longestSource = 200;
