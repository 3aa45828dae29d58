/** The same blocks as JSON Lines: an item a line. A value with marks is an object of them; names that may repeat are lists. */
import { compileBlocks, listNames } from './blocks.js';
import type { WrittenFormat } from './model.js';

type Written = string | Record<string, string>;

const withMarks = (text: string, marks: readonly [string, string][]): Written =>
  marks.length === 0 ? text : { ...Object.fromEntries(marks), value: text };

export const jsonl: WrittenFormat = {
  label: 'JSON Lines',
  extension: 'jsonl',
  contentType: 'application/x-ndjson; charset=utf-8',
  compile(rulebook, meta) {
    const read = compileBlocks(rulebook, meta);
    const lists = listNames(rulebook);
    return {
      head: '',
      item: (values) => {
        const item: Record<string, unknown> = {};
        for (const block of read(values)) {
          if (block.own !== undefined) {
            item[block.name] = withMarks(block.own, block.marks);
            continue;
          }
          const parts: Record<string, Written | Written[]> = Object.fromEntries(block.marks);
          for (const { name, text, marks } of block.pieces) {
            const written = withMarks(text, marks);
            if (lists.has(`${block.name}/${name}`)) parts[name] = [...((parts[name] as Written[]) ?? []), written];
            else parts[name] = written;
          }
          item[block.name] = parts;
        }
        return `${JSON.stringify(item)}\n`;
      },
      foot: '',
    };
  },
};
