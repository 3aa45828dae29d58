import { UnreadableFile, chooseLists, jsonItems, scanJson, variantLists } from '@velvet-shelf/core/tabular';
import { readLinked, textOf } from '../text.js';
import { type ReadingOf, plainStyle, plainWhy } from './model.js';
import { nestedDetection, nestedFormat, numbered } from './nested.js';

export const json = nestedFormat<ReadingOf<'json'>>({
  async detect({ why, encoding, text }) {
    const lists = scanJson(text);
    const { items, variants } = chooseLists(lists);
    return nestedDetection(
      {
        format: 'json',
        encoding: encoding.value,
        itemPath: items?.path ?? '',
        variantPath: variants?.path ?? null,
        ...plainStyle,
      },
      { format: why, encoding: encoding.why, ...plainWhy },
      { lists, below: items ? variantLists(lists, items.path) : [], items, variants },
    );
  },
  async *items(path, { encoding, itemPath }, most) {
    if (itemPath === '' && !(await beginsWithList(path, encoding)))
      yield { place: 'the item', item: parseJson(await readLinked(path, encoding)) };
    else yield* numbered(jsonItems(textOf(path, encoding, most), itemPath));
  },
});

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new UnreadableFile(`It is not JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
}

async function beginsWithList(path: string, encoding: string): Promise<boolean> {
  for await (const chunk of textOf(path, encoding, 1)) return /^\uFEFF?\s*\[/.test(chunk);
  return false;
}
