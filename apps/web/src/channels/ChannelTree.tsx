/** The channel's own tree beside ours: which of ours stand where, what is likely for the one that is chosen, and a place chosen by a click. */
import TextField from '@mui/material/TextField';
import type { CategoryRow } from '@velvet-shelf/contract';
import { foldText } from '@velvet-shelf/core/values';
import { useMemo, useState } from 'react';
import { Box } from '../design/Box';
import { Tree } from '../design/Tree';
import { count, plural } from '../design/words';

export interface ChannelCategory {
  path: string;
  names: string[];
  leaf: boolean;
}

/** Categories shown of those that a search finds. */
const mostFound = 200;

export function ChannelTree({
  tree,
  rows,
  row,
  leafOnly,
  onPut,
}: {
  tree: readonly ChannelCategory[];
  /** Our categories. */
  rows: readonly CategoryRow[];
  /** The one that is chosen. */
  row: CategoryRow;
  leafOnly: boolean;
  onPut: (path: string) => void;
}) {
  const [search, setSearch] = useState('');
  const standing = useMemo(() => standingIn(rows), [rows]);
  const likely = new Map(row.suggestions.map(({ path, score }) => [path, score]));
  const number = useMemo(() => new Map(tree.map(({ path }, i) => [path, i])), [tree]);
  const idOf = (path: string) => number.get(path) ?? -1;
  const shown = useMemo(() => {
    const words = foldText(search).split(' ').filter(Boolean);
    return (words.length === 0 ? tree : foundIn(tree, words)).map((category) => {
      const cut = category.path.lastIndexOf('/');
      const parentId = cut < 0 ? null : (number.get(category.path.slice(0, cut)) ?? null);
      return { ...category, id: number.get(category.path) ?? -1, parentId };
    });
  }, [tree, number, search]);
  return (
    <>
      <TextField
        size="small"
        fullWidth
        label="Search the channel’s tree"
        value={search}
        onChange={({ target }) => setSearch(target.value)}
        sx={{ mb: 1.5 }}
      />
      {shown.length === 0 ? (
        <Box as="p" muted small role="status">
          Nothing in the channel’s tree has these words.
        </Box>
      ) : (
        <Tree
          key={search}
          label="The channel’s tree"
          heads={['The channel’s tree', 'Ours there']}
          widths="90px"
          rows={shown}
          nameOf={({ names }) => names.at(-1) ?? ''}
          cells={({ path }) => {
            const score = likely.get(path);
            const ours = standing.get(path);
            return [
              <Box as="span" small muted key="there" title={ours?.names.join(', ')}>
                {score !== undefined && (
                  <Box as="b" tone="accent">
                    {score} %{' '}
                  </Box>
                )}
                {ours ? `${ours.names.length > 1 ? `${count(ours.names.length)} · ` : ''}${count(ours.variants)}` : ''}
              </Box>,
            ];
          }}
          open={[row.target, ...row.suggestions.map(({ path }) => path)].flatMap((path) => above(path).map(idOf))}
          chosen={row.target === null ? undefined : idOf(row.target)}
          onChoose={({ path, leaf }) => {
            if (leaf || !leafOnly) onPut(path);
          }}
        />
      )}
      <Box as="p" small muted above={1.5}>
        {search !== '' && shown.length >= mostFound
          ? `The first ${plural(mostFound, 'category', 'categories')}; say more of its name.`
          : `A click puts ${row.names.at(-1)} there. Beside a name: how likely it is, and the variants of ours that stand there.`}
      </Box>
    </>
  );
}

/** Paths of all that a category stands below. */
const above = (path: string | null): string[] =>
  (path ?? '').split('/').flatMap((_, i, parts) => (i === 0 ? [] : [parts.slice(0, i).join('/')]));

/** Those whose names have all the words, with what stands above them. */
function foundIn(tree: readonly ChannelCategory[], words: readonly string[]): ChannelCategory[] {
  const wanted = new Set<string>();
  for (const { path, names } of tree) {
    if (wanted.size >= mostFound) break;
    const text = foldText(names.at(-1) ?? '');
    if (!words.every((word) => text.includes(word))) continue;
    const parts = path.split('/');
    for (let i = 1; i <= parts.length; i++) wanted.add(parts.slice(0, i).join('/'));
  }
  return tree.filter(({ path }) => wanted.has(path));
}

function standingIn(rows: readonly CategoryRow[]): Map<string, { names: string[]; variants: number }> {
  const standing = new Map<string, { names: string[]; variants: number }>();
  for (const { target, names, variants } of rows) {
    if (target === null) continue;
    const there = standing.get(target) ?? { names: [], variants: 0 };
    there.names.push(names.at(-1) ?? '');
    there.variants += variants;
    standing.set(target, there);
  }
  return standing;
}
