/**
 * Who may import whom, as lint rules (docs/architecture.md has the picture).
 * Core is in layers: a folder may use the folders named before it, and nothing that touches the outside.
 */
const coreLayers = [
  ['values'],
  ['conditions'],
  ['tabular', 'catalog', 'rulebooks'],
  ['claims', 'matching', 'categories', 'fills', 'checks'],
  ['listings'],
  ['causes', 'prices', 'stock', 'bundles', 'orders'],
  ['intake', 'feeds'],
];

const outside = ['node:*', 'fs', 'http', 'net', 'pg', 'koa', 'drizzle-orm', 'react', '@mui/*'];

const forbid = (files, groups, message, extra = []) => ({
  files,
  ignores: ['**/*.test.ts'],
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group: groups, message }, ...extra] }] },
});

export const coreBoundaries = coreLayers.flatMap((layer, depth) =>
  layer.map((folder) => {
    const above = coreLayers.slice(depth + 1).flat();
    // A folder that leaves itself and comes back goes round its own files; layers beside it are as far as those above.
    return forbid(
      [`packages/core/src/${folder}/**/*.ts`],
      [...above, ...layer].map((other) => `**/../${other}/**`).concat('../*/dist/*'),
      'Core layers point one way only: see eslint.boundaries.js.',
      [{ group: outside, message: 'Core computes: no network, disk, database or interface.' }],
    );
  }),
);

/** Core is handed the day and what is drawn: it has neither a clock nor dice. */
const noClock = {
  files: ['packages/core/src/**/*.ts'],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-properties': [
      'error',
      { object: 'Date', property: 'now', message: 'Core has no clock: it is handed the day.' },
      { object: 'Math', property: 'random', message: 'Core has no dice: what is drawn is handed to it.' },
    ],
    'no-restricted-syntax': [
      'error',
      { selector: 'NewExpression[callee.name="Date"][arguments.length=0]', message: 'Core has no clock.' },
    ],
  },
};

export const packageBoundaries = [
  noClock,
  forbid(
    ['packages/contract/src/**/*.ts'],
    ['@velvet-shelf/server/*', '@velvet-shelf/demo/*', ...outside],
    'The contract knows only core.',
  ),
  forbid(
    ['apps/web/src/**/*.{ts,tsx}'],
    ['@velvet-shelf/server/*', '@velvet-shelf/demo/*', 'node:*'],
    'The web application reaches the server through the contract only.',
  ),
  forbid(
    ['apps/server/src/**/*.ts'],
    ['@velvet-shelf/demo/*', 'react', '@mui/*'],
    'The server knows core and contract.',
  ),
  forbid(
    ['apps/standins/src/**/*.ts'],
    ['@velvet-shelf/*'],
    'A stand-in is the other side: it shares no code with us.',
  ),
];
