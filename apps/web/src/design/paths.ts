/** A tree as people paste it: a path a line with / or > between its names, or names one below the other, set in deeper. */
const parted = /\s*[/>»›]\s*/;
const tabWidth = 4;

/** Paths of names from the root down, in their order; empty lines are left out. */
export function readPaths(text: string): string[][] {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const depthOf = (line: string) => (/^[ \t]*/.exec(line)?.[0] ?? '').replaceAll('\t', ' '.repeat(tabWidth)).length;
  const isSetIn = lines.some((line) => depthOf(line) > depthOf(lines[0] ?? ''));
  if (!isSetIn) return lines.map((line) => line.trim().split(parted).filter(Boolean)).filter((path) => path.length > 0);
  const above: { depth: number; path: string[] }[] = [];
  return lines.flatMap((line) => {
    const depth = depthOf(line);
    while ((above.at(-1)?.depth ?? -1) >= depth) above.pop();
    const names = line.trim().split(parted).filter(Boolean);
    if (names.length === 0) return [];
    const path = [...(above.at(-1)?.path ?? []), ...names];
    above.push({ depth, path });
    return [path];
  });
}
