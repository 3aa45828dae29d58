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
  const axes = new Set(siblings.flatMap(({ options }) => options.map(([axis]) => foldText(axis))));
  const columns = columnsOf(
    [...axes].sort().map((key) => ({ key, kind: 'text' })),
    siblings.map(({ options }, id) => ({
      id,
      options: Object.fromEntries(options.map(([axis, value]) => [foldText(axis), value])),
    })),
  );
  return siblings.map(({ options }, i) =>
    options.length === 0 ? '' : columns.map(({ axis, same }) => `${axis.key}: ${same[i] ?? ''}`).join(', '),
  );
}

const say = ({ options }: Sibling) => options.map(([axis, value]) => `${axis}: ${value}`).join(', ');
