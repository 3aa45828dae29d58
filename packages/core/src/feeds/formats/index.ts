/** Feed formats by name: one file a format, and its line here. */
import type { FeedFormat, Rulebook } from '../../rulebooks/index.js';
import { csv } from './csv.js';
import { jsonl } from './jsonl.js';
import type { FeedMeta, FeedWriter, WrittenFormat } from './model.js';
import { rss } from './rss.js';
import { tsv } from './tsv.js';
import { xml } from './xml.js';

export const formats: Readonly<Record<FeedFormat, WrittenFormat>> = { xml, jsonl, rss, tsv, csv };

export const compileWriter = (format: FeedFormat, rulebook: Rulebook, meta: FeedMeta): FeedWriter =>
  formats[format].compile(rulebook, meta);

export type { FeedMeta, FeedWriter } from './model.js';
export { xmlText } from './model.js';
