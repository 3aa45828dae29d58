/** Whose a column's texts are, where rows stand in families: one a family, one a row, or one of several families. */
import { foldText } from '../values/index.js';
import { type Shared, type Surroundings, hear } from './candidates.js';
import type { Column } from './column.js';

/** Families of two rows and more that a sample must have to tell by. */
const fewestFamilies = 3;
/** How sure a name must be of naming families: as much as a word of the trade in it makes it. */
const surely = 2;

/** By the column whose name is surely that of families, and whose rows share. Nothing where no column is one. */
export function sharedTexts(
  columns: readonly Column[],
  sample: readonly (readonly string[])[],
  around: Surroundings,
): ReadonlyMap<Column, Shared> {
  const by = columns
    .map((column, at) => ({
      at,
      weight: Math.max(0, ...hear(column, around).flatMap(({ sense, weight }) => (sense === 'family' ? [weight] : []))),
    }))
    .filter(({ weight }) => weight >= surely)
    .sort((a, b) => b.weight - a.weight)[0]?.at;
  if (by === undefined) return new Map();
  const families = new Map<string, (readonly string[])[]>();
  for (const row of sample) {
    const family = foldText(row[by] ?? '');
    if (family !== '') families.set(family, [...(families.get(family) ?? []), row]);
  }
  const several = [...families.values()].filter((rows) => rows.length > 1);
  if (several.length < fewestFamilies) return new Map();
  return new Map(
    columns.flatMap((column, at): [Column, Shared][] => {
      const shared = at === by ? undefined : sharedAt(at, several);
      return shared === undefined ? [] : [[column, shared]];
    }),
  );
}

function sharedAt(at: number, families: readonly (readonly (readonly string[])[])[]): Shared | undefined {
  const told = families
    .map((rows) => rows.map((row) => foldText(row[at] ?? '')).filter((text) => text !== ''))
    .filter((texts) => texts.length > 1);
  if (told.length < fewestFamilies) return undefined;
  const constant = told.filter((texts) => new Set(texts).size === 1);
  const apart = told.filter((texts) => new Set(texts).size === texts.length);
  if (apart.length > 0.8 * told.length) return 'row';
  if (constant.length < 0.8 * told.length) return undefined;
  const different = new Set(constant.map(([text]) => text));
  return different.size > 0.8 * constant.length ? 'family' : 'families';
}
