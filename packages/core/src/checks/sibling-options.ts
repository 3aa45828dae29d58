import { columnsOf } from '../catalog/index.js';
import { foldText } from '../values/index.js';
import type { FamilyCheck, Sibling } from './model.js';

export const siblingOptions: FamilyCheck = {
  meta: {
    id: 'sibling-options',
    severity: 'blocker',
    describes: 'Two variants of one family have the same value on every axis: a buyer could not tell them apart.',
    fix: 'catalog',
    fault: 'are the same as a sibling’s',
    say: ({ options = '' }) => `Another variant of the family has the same options (${options})`,
  },
  compile() {
    return (siblings) => {
      const counts = new Map<string, number>();
      const prints = printsOf(siblings);
      for (const text of prints) counts.set(text, (counts.get(text) ?? 0) + 1);
      return siblings.map((sibling, i) => {
        const own = prints[i] ?? '';
        return own !== '' && (counts.get(own) ?? 0) > 1
          ? { attribute: 'options', params: { options: say(sibling) } }
          : undefined;
      });
    };
  },
  examples: {
    rules: [],
    pass: [
      [
        { item: {}, options: [['glaze', 'Moss']] },
        { item: {}, options: [['glaze', 'Slate']] },
      ],
      [
        { item: {}, options: [] },
        { item: {}, options: [] },
      ],
      [
        { item: {}, options: [['length', '1.5 m']] },
        { item: {}, options: [['length', '15 cm']] },
      ],
    ],
    fail: [
      [
        { item: {}, options: [['glaze', 'Moss']] },
        { item: {}, options: [['glaze', 'Moss']] },
      ],
      [
        {
          item: {},
          options: [
            ['glaze', 'Moss'],
            ['size', 'L'],
          ],
        },
        {
          item: {},
          options: [
            ['size', 'l'],
            ['Glaze', 'MOSS '],
          ],
        },
      ],
      [
        { item: {}, options: [['length', '1.5 m']] },
        { item: {}, options: [['length', '150 cm']] },
      ],
      [
        { item: {}, options: [['fit', 'XXL']] },
        { item: {}, options: [['fit', '2XL']] },
      ],
    ],
  },
};

/** Equal where a buyer sees the same: whatever the letters’ case, the order of the axes, the unit or a size’s spelling. */
function printsOf(siblings: readonly Sibling[]): string[] {
  const rows = siblings.map(({ options }) => new Map(options.map(([axis, value]) => [foldText(axis), value.trim()])));
  const axes = [...new Set(rows.flatMap((row) => [...row.keys()]))].sort();
  const meanings = axes.map((axis) => meaningsOf([...new Set(rows.map((row) => row.get(axis) ?? ''))]));
  return rows.map((row) =>
    row.size === 0 ? '' : axes.map((axis, i) => `${axis}: ${meanings[i]?.get(row.get(axis) ?? '') ?? ''}`).join(', '),
  );
}

/** Families share their lists of sizes and lengths: what the values of one mean is found once. */
const known = new Map<string, ReadonlyMap<string, string>>();
const mostKnown = 5000;
const longestKnown = 2000;

/** What each of the values of an axis stands for among the others; nothing where it has none. */
function meaningsOf(values: readonly string[]): ReadonlyMap<string, string> {
  if (values.length === 1) return new Map([[values[0] ?? '', values[0] ?? '']]);
  const key = values.join('\u0001');
  const held = known.get(key);
  if (held) return held;
  const [column] = columnsOf(
    [{ key: 'axis', kind: 'text' }],
    values.map((axis, id) => ({ id, options: { axis } })),
  );
  const meanings = new Map(values.map((value, i) => [value, column?.same[i] ?? '']));
  if (known.size >= mostKnown) known.clear();
  if (key.length <= longestKnown) known.set(key, meanings);
  return meanings;
}

const say = ({ options }: Sibling) => options.map(([axis, value]) => `${axis}: ${value}`).join(', ');
