/**
 * Who may import whom, as lint rules (docs/architecture.md has the picture).
 * Core is in layers: a folder may use the folders named before it, and nothing that touches the outside.
 */
const coreLayers = [
  ['values'],
  ['conditions', 'lexicon'],
  ['tabular', 'catalog', 'rulebooks'],
  ['enrichment'],
  ['claims', 'matching', 'categories', 'translations', 'fills', 'checks'],
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

/** Rooms of the server, the lowest first; what a lower one sets off above it is registered in `rooms.ts`. */
const serverLayers = [
  ['db'],
  ['http'],
  ['history', 'jobs', 'outgoing', 'kept'],
  ['company', 'claims'],
  ['session'],
  ['dictionary'],
  ['files'],
  ['catalog'],
  ['pictures'],
  ['prices'],
  ['stock'],
  ['channels'],
  ['listings'],
  ['causes', 'matching'],
  ['intake', 'enrichment'],
  ['feeds'],
  ['moving-in'],
  ['today'],
];

export const serverBoundaries = serverLayers.flatMap((layer, depth) =>
  layer.map((room) => {
    const beyond = [...serverLayers.slice(depth + 1).flat(), ...layer.filter((other) => other !== room)];
    return forbid(
      [`apps/server/src/${room}/**/*.ts`],
      [...beyond.map((other) => `**/../${other}/**`), '**/../rooms.js', '**/../app.js', '**/../main.js'],
      'Rooms of the server lean on lower ones only: see eslint.boundaries.js.',
      [{ group: ['@velvet-shelf/demo/*', 'react', '@mui/*'], message: 'The server knows core and contract.' }],
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
    ['apps/standins/src/**/*.ts'],
    ['@velvet-shelf/*', '!@velvet-shelf/rulebooks'],
    'A stand-in is the other side: it shares no code with us, but the rulebooks that channels publish.',
  ),
];
