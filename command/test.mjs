/** ./velvet test: lint and types, unit, integration, end-to-end. Quiet when green, telling when red. */
import { mkdirSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, compiler } from './build.mjs';
import { handOut } from './hand-out.mjs';
import { browserPath, checkNode, installBrowser, installModules, installPostgres, state } from './install.mjs';
import { collect, root } from './run.mjs';
import { Fault, say } from './say.mjs';
import { raiseGround } from './stage.mjs';

const parts = ['lint', 'unit', 'integration', 'e2e'];
const results = join(state, 'test-results');

/** Pieces that take longest and are therefore begun first; the others follow in any order. */
const longest = [
  'lint',
  'e2e/catalog',
  'e2e/shelf',
  'e2e/supplier',
  'e2e/channel',
  'e2e/files',
  'unit',
  'e2e/first-run',
];

/** What a piece may begin with, as the demo’s loader is told it. */
const grounds = { loaded: { load: ['--bare'] }, stocked: { load: ['--own'] }, empty: {} };

/** Browser tests of a shelf that nobody owns yet. */
const emptyFolders = ['first-run', 'keys'];

export async function test({ only }) {
  if (only !== undefined && !parts.includes(only))
    throw new Fault(`There is no part “${only}”`, `Choose one of ${parts.join(', ')}.`);
  checkNode();
  installModules();
  installPostgres();
  installBrowser();
  build();
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });

  const wanted = (part) => only === undefined || only === part;
  const pieces = [...plainPieces(), ...browserPieces()].filter(({ part }) => wanted(part));
  const order = ({ name }) => (longest.includes(name) ? longest.indexOf(name) : longest.length);
  pieces.sort((x, y) => order(x) - order(y));
  // Each when it is first asked for.
  const raised = new Map();
  const ground = (stage) => {
    if (!raised.has(stage)) raised.set(stage, raiseGround(grounds[stage]));
    return raised.get(stage);
  };
  const tally = new Map(parts.filter(wanted).map((part) => [part, { passed: 0, failed: 0, left: 0 }]));
  for (const { part } of pieces) tally.get(part).left++;
  try {
    // Integration tests go two files at a time, and the others beside them one by one; then those go two at a time.
    const first = wanted('integration') ? integration(ground, tally) : Promise.resolve();
    await Promise.all([first.then(() => work(pieces, ground, tally)), work(pieces, ground, tally)]);
  } finally {
    for (const one of await Promise.allSettled(raised.values())) await one.value?.strike();
  }
  const sum = (what) => [...tally.values()].reduce((all, one) => all + one[what], 0);
  say(`${sum('passed')} passed, ${sum('failed')} failed`);
  return sum('failed') > 0 ? 1 : 0;
}

/** All files of integration tests, in one process that reads what they share once; each is handed a stage. */
async function integration(ground, tally) {
  const take = async (name) => (await ground(beginsStocked(name) ? 'stocked' : 'loaded')).stage();
  const stages = await handOut(take);
  try {
    const one = await vitest('integration', { VELVET_STAGES: stages.url });
    tally.set('integration', one);
    say(`integration: ${one.passed} passed, ${one.failed} failed`);
  } finally {
    stages.end();
  }
}

/** Takes piece after piece until none is left; says a part’s count with its last piece. */
async function work(pieces, ground, tally) {
  for (let piece = pieces.shift(); piece !== undefined; piece = pieces.shift()) {
    const of = tally.get(piece.part);
    const stage = piece.stage && (await (await ground(piece.stage)).stage());
    try {
      const one = await piece.run(stage && { ...stage.env, VELVET_TEST_URL: stage.url });
      of.passed += one.passed;
      of.failed += one.failed;
    } finally {
      await stage?.strike();
    }
    if (--of.left === 0) say(`${piece.part}: ${of.passed} passed, ${of.failed} failed`);
  }
}

function plainPieces() {
  const command = (name, program, args) => ({
    part: 'lint',
    name,
    run: async () => ((await quietly(program, args)) ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 }),
  });
  return [
    command('lint', 'npm', ['run', '-s', 'lint']),
    command('types', process.execPath, [compiler, '-p', 'tsconfig.tests.json']),
    { part: 'unit', name: 'unit', run: () => vitest('unit', {}) },
  ];
}

/** A file that asks first for our own sheet to be in is given a stage where it is. */
const beginsStocked = (name) => readFileSync(join(root, 'apps/server/test', name), 'utf8').includes('.stocked()');

/** A folder of browser tests is a piece: it says from its first line on what is there. */
function browserPieces() {
  // The wanderer is sent out on purpose only.
  const folders = readdirSync(join(root, 'e2e'), { withFileTypes: true }).filter(
    (one) => one.isDirectory() && (one.name !== 'wander' || process.env.VELVET_STEPS !== undefined),
  );
  return folders.map(({ name }) => ({
    part: 'e2e',
    name: `e2e/${name}`,
    stage: emptyFolders.includes(name) ? 'empty' : 'loaded',
    run: (env) => playwright(name, env),
  }));
}

/** Runs a programme, showing what it said only where it failed. */
async function quietly(program, args, env = {}) {
  const { status, out, error } = await collect(program, args, { env });
  if (status !== 0) process.stdout.write(`${out}${error}\n`);
  return status === 0;
}

async function vitest(project, env) {
  const file = join(results, `${project}.json`);
  const green = await quietly(
    process.execPath,
    [
      join(root, 'node_modules/vitest/vitest.mjs'),
      'run',
      '--project',
      project,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${file}`,
    ],
    env,
  );
  const report = readReport(file);
  if (!report) return { passed: 0, failed: 1 };
  return {
    passed: report.numPassedTests,
    failed: report.numFailedTests + (green || report.numFailedTests > 0 ? 0 : 1),
  };
}

async function playwright(folder, env) {
  const file = join(results, `e2e-${folder}.json`);
  const green = await quietly(
    process.execPath,
    [
      join(root, 'node_modules/@playwright/test/cli.js'),
      'test',
      '--reporter=line,json',
      `--output=${join(results, `e2e-${folder}`)}`,
      `e2e/${folder}/`,
    ],
    {
      ...env,
      VELVET_BROWSER: browserPath(),
      PLAYWRIGHT_JSON_OUTPUT_NAME: file,
      PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1',
    },
  );
  const report = readReport(file);
  if (!report) return { passed: 0, failed: 1 };
  const { expected, unexpected, flaky } = report.stats;
  return { passed: expected + flaky, failed: unexpected + (green || unexpected > 0 ? 0 : 1) };
}

function readReport(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return undefined;
  }
}
