import type { ValueCheck } from './model.js';

export const plainGround: ValueCheck = {
  meta: {
    id: 'plain-ground',
    severity: 'blocker',
    describes: 'The main picture shows the goods before a plain ground: so much of its edge is of one colour.',
    fix: 'catalog',
    fault: 'have no plain ground',
    say: ({ plain = 0, least = 0 }, label) => `The ground of ${label} is plain to ${plain} %; ${least} % are asked for`,
  },
  compile({ type, limits: { plainGround: least } }) {
    if (type !== 'picture' || least === undefined) return undefined;
    return (value) => {
      if (typeof value !== 'object' || value.kind !== 'pictures') return undefined;
      const plain = value.pictures[0]?.plain;
      return plain !== undefined && plain < least ? { plain, least } : undefined;
    };
  },
  examples: {
    attribute: { type: 'picture', limits: { plainGround: 90 } },
    pass: [
      {
        kind: 'pictures',
        pictures: [
          { address: 'a', plain: 97 },
          { address: 'b', plain: 10 },
        ],
      },
      { kind: 'pictures', pictures: [{ address: 'not measured' }] },
    ],
    fail: [{ kind: 'pictures', pictures: [{ address: 'a', plain: 60 }] }],
  },
};
