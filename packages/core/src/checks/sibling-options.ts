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
      const prints = siblings.map(print);
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
    ],
  },
};

/** Equal where a buyer sees the same: whatever the letters' case, the spaces and the order of the axes. */
function print({ options }: Sibling): string {
  if (options.length === 0) return '';
  return options
    .map(([axis, value]) => `${foldText(axis)}: ${foldText(value)}`)
    .sort()
    .join(', ');
}

const say = ({ options }: Sibling) => options.map(([axis, value]) => `${axis}: ${value}`).join(', ');
