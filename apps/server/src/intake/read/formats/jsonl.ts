import { stat } from 'node:fs/promises';
import { jsonLines, scanJson, variantLists } from '@velvet-shelf/core/tabular';
import { textOf } from '../text.js';
import { type ReadingOf, plainStyle, plainWhy } from './model.js';
import { nestedDetection, nestedFormat } from './nested.js';

export const jsonl = nestedFormat<ReadingOf<'jsonl'>>({
  async detect({ why, encoding, text }) {
    const [first = '{}'] = text.split(/\r\n|\n|\r/).filter((line) => line.trim() !== '');
    const below = variantLists(scanJson(`[${first}]`), '');
    const variants = below.sort((a, b) => b.objects - a.objects)[0];
    return nestedDetection(
      { format: 'jsonl', encoding: encoding.value, variantPath: variants?.path ?? null, ...plainStyle },
      { format: why, encoding: encoding.why, ...plainWhy },
      { lists: [], below, items: undefined, variants },
    );
  },
  async *items(path, { encoding }, most) {
    const isCut = most !== undefined && (await stat(path)).size > most;
    for await (const line of jsonLines(textOf(path, encoding, most)))
      if ('item' in line) yield { place: `line ${line.line}`, item: line.item };
      // Where only a beginning is read, its last line is broken off by us.
      else if (!isCut) yield { place: `line ${line.line}`, broken: { reason: line.broken, text: line.text } };
  },
});
