import { UnreadableFile, chooseElements, scanXml, variantElements, xmlItems } from '@velvet-shelf/core/tabular';
import { textOf } from '../text.js';
import { type ReadingOf, plainStyle, plainWhy } from './model.js';
import { nestedDetection, nestedFormat, numbered } from './nested.js';

export const xml = nestedFormat<ReadingOf<'xml'>>({
  async detect({ why, encoding, text }) {
    const { lists, apart } = scanXml(text);
    const { items, variants } = chooseElements(lists);
    if (!items) throw new UnreadableFile('It is XML, but no element in it repeats: there is no list of goods');
    return nestedDetection(
      {
        format: 'xml',
        encoding: encoding.value,
        itemPath: items.path,
        variantPath: variants?.path ?? null,
        ...(apart.length > 0 ? { apart } : {}),
        ...plainStyle,
      },
      { format: why, encoding: encoding.why, ...plainWhy },
      { lists, below: variantElements(lists, items.path), items, variants },
    );
  },
  items: (path, { encoding, itemPath, apart }, most) =>
    numbered(xmlItems(textOf(path, encoding, most), itemPath, apart)),
});
