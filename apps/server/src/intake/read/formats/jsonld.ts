import { linkedItems } from '@velvet-shelf/core/tabular';
import { readLinked } from '../text.js';
import { type ReadingOf, plainStyle, plainWhy } from './model.js';
import { nestedFormat, numbered } from './nested.js';

export const jsonld = nestedFormat<ReadingOf<'jsonld'>>({
  async detect({ path, why, encoding }) {
    const items = linkedItems(await readLinked(path, encoding.value));
    const hasVariants = items.some((item) => Array.isArray((item as { hasVariant?: unknown }).hasVariant));
    return {
      reading: {
        format: 'jsonld',
        encoding: encoding.value,
        variantPath: hasVariants ? 'hasVariant' : null,
        ...plainStyle,
      },
      why: {
        format: why,
        encoding: encoding.why,
        ...plainWhy,
        variantPath: hasVariants ? 'groups of goods list their variants (hasVariant)' : 'no group lists variants',
      },
      itemPaths: [],
      variantPaths: hasVariants ? [{ path: 'hasVariant', objects: items.length }] : [],
      notes: [`${items.length} descriptions of goods`],
    };
  },
  async *items(path, { encoding }) {
    yield* numbered(linkedItems(await readLinked(path, encoding)));
  },
});
