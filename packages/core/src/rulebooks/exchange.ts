/** How goods reach a channel: the formats it takes, and how an item is written in them. */
import { z } from 'zod';

/** Written formats: documents of blocks, and flat rows. */
export const feedFormats = ['xml', 'jsonl', 'rss', 'tsv', 'csv'] as const;
export type FeedFormat = (typeof feedFormats)[number];

/** What stands beside a value: another value, a word that is always there, or the currency of the market. */
const markSchema = z.union([
  /** Where an optional one has no value, the value it stands beside is written without it. */
  z.strictObject({ attribute: z.string(), optional: z.boolean().optional() }),
  z.strictObject({ text: z.string() }),
  z.strictObject({ currency: z.literal(true) }),
]);

const name = z.string().regex(/^[a-zA-Z][\w-]*$/);
const marks = z.record(name, markSchema).default({});

/** One value by its name; a list is written once for each of its values. It is left out where it has none. */
const nodeSchema = z.strictObject({ name, attribute: z.string(), marks });
export type LayoutNode = z.infer<typeof nodeSchema>;

/** A value by itself, or several below one name. A block is left out where nothing in it has a value, or a mark of it has none. */
const blockSchema = z.union([nodeSchema, z.strictObject({ name, marks, nodes: z.array(nodeSchema).min(1) })]);
export type LayoutBlock = z.infer<typeof blockSchema>;

export const exchangeSchema = z.strictObject({
  /** Attribute whose value names an item. */
  itemKey: z.string(),
  formats: z.array(z.enum(feedFormats)).min(1),
  /** Of documents: the root's name and namespace, an item's name, and its blocks in their order. */
  document: z
    .strictObject({ root: name, namespace: z.string(), item: name, blocks: z.array(blockSchema).min(1) })
    .optional(),
  /** Of rows: the columns in their order; RSS has a namespace of the channel's for those that are not its own. */
  rows: z
    .strictObject({
      rss: z.strictObject({ prefix: z.string(), namespace: z.string() }),
      fields: z
        .array(z.strictObject({ attribute: z.string(), name: z.string(), plain: z.boolean().optional() }))
        .min(1),
    })
    .optional(),
});
export type Exchange = z.infer<typeof exchangeSchema>;

/** Attributes an exchange names, with where it names them. */
export function* exchangeAttributes({
  itemKey,
  document,
  rows,
}: Exchange): Generator<[place: string, attribute: string]> {
  yield ['exchange.itemKey', itemKey];
  for (const { attribute } of rows?.fields ?? []) yield ['exchange.rows.fields', attribute];
  for (const block of document?.blocks ?? [])
    for (const part of [block, ...('nodes' in block ? block.nodes : [])]) {
      const place = `exchange.document.blocks.${block.name}`;
      if ('attribute' in part) yield [place, part.attribute];
      for (const mark of Object.values(part.marks)) if ('attribute' in mark) yield [place, mark.attribute];
    }
}

/** Formats that need what an exchange does not describe. */
export const undescribed = ({ formats, document, rows }: Exchange): FeedFormat[] =>
  formats.filter((format) => (format === 'xml' || format === 'jsonl' ? !document : !rows));
