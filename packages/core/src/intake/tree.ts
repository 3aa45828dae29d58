/** Cells of a category column as paths of a tree, where they hold separators that make one. */

/** From the surest on. A slash between letters may be part of a name ("Cups/Mugs"), unless what stands before it comes again. */
const separators = [/\s*[>»›→]\s*/, /\s*\|\s*/, /\s+[/\\]\s+/, /\s*::\s*/, /[/\\]/] as const;

/** Share of the different cells that a separator has to part before they are taken for paths. */
const enough = 0.3;

/** Each different cell as its names from the root down; cells that no separator parts are a path of one. */
export function readTree(cells: readonly string[]): Map<string, string[]> {
  const different = [...new Set(cells.map((cell) => cell.trim()).filter((cell) => cell !== ''))];
  const parted = (cell: string, separator: RegExp) => cell.split(separator).filter((name) => name !== '');
  const separator = separators.find((each) => {
    const paths = different.map((cell) => parted(cell, each)).filter((path) => path.length > 1);
    if (paths.length === 0 || paths.length < enough * different.length) return false;
    if (each !== separators.at(-1)) return true;
    // A tree has branches: more leaves than roots.
    return new Set(paths.map(([root]) => root)).size < paths.length;
  });
  return new Map(different.map((cell) => [cell, separator ? parted(cell, separator) : [cell]]));
}
