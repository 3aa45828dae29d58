/** A channel's category tree as it is shown and compared. */
import { type Rulebook, parentPath } from '@velvet-shelf/core/rulebooks';

/** Names from the root to a category. */
export function namesOf(rulebook: Rulebook): (path: string) => string[] {
  const names = new Map(rulebook.categories.map(({ path, name }) => [path, name]));
  const walk = (path: string | undefined): string[] =>
    path === undefined ? [] : [...walk(parentPath(path)), names.get(path) ?? path];
  return walk;
}

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
