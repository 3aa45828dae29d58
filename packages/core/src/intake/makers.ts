/** Part numbers of suppliers that make what they sell. */
import { foldCode, keyOf } from '../values/index.js';
import type { SuggestSetup, Suggestion } from './suggest.js';

/** Whoever sells only what it makes gives its goods part numbers: its own article numbers, where no column names others. */
export function withMakersNumber(
  suggestions: Suggestion[],
  columns: readonly { name: string; values: readonly string[] }[],
  { supplier = '', dictionary, isOwn }: SuggestSetup,
): Suggestion[] {
  const feeds = (attribute: string | undefined) =>
    suggestions.find(({ target }) => target.to === 'attribute' && target.attribute === attribute)?.column;
  const keys = suggestions.filter(({ target }) => target.to === 'key');
  const [brandKey, mpn] = [keyOf(dictionary, 'brand'), keyOf(dictionary, 'mpn')];
  const brands = columns.find(({ name }) => name === feeds(brandKey))?.values ?? [];
  const [brand = ''] = brands;
  const isMaker =
    foldCode(brand) !== '' &&
    foldCode(supplier).startsWith(foldCode(brand)) &&
    brands.every((text) => foldCode(text) === foldCode(brand));
  // What a person confirmed of the article number before stays as it was.
  if (keys.length !== 1 || keys[0]?.score === 100) return suggestions;
  if (isOwn || !isMaker || mpn === undefined || feeds(mpn) !== undefined) return suggestions;
  return suggestions.flatMap((suggestion): Suggestion[] =>
    suggestion !== keys[0]
      ? [suggestion]
      : [
          suggestion,
          {
            column: suggestion.column,
            target: { to: 'attribute', attribute: mpn },
            score: 70,
            why: `no column names the MPN, and all goods are ${brand}’s own: their article number is the part number`,
          },
        ],
  );
}
