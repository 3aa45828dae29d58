/** A channel's category tree as it is shown and compared. */
import { type Rulebook, namesOf, parentPath } from '@velvet-shelf/core/rulebooks';

/** The tree as suggestions are made from it. */
export function targetsOf(rulebook: Rulebook): { path: string; names: string[]; words?: string; isLeaf: boolean }[] {
  const names = namesOf(rulebook);
  const parents = new Set(rulebook.categories.map(({ path }) => parentPath(path)));
  return rulebook.categories.map(({ path, words }) => ({
    path,
    names: names(path),
    ...(words === undefined ? {} : { words }),
    isLeaf: !parents.has(path),
  }));
}
