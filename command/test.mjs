/** ./velvet test: lint and types, unit, integration, end-to-end. Quiet when green, telling when red. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from './build.mjs';
import { checkNode, installBrowser, installModules, installPostgres, state } from './install.mjs';
import { root } from './run.mjs';
import { Fault, say } from './say.mjs';
import { raiseStage } from './stage.mjs';

const parts = ['lint', 'unit', 'integration', 'e2e'];

export async function test({ only }) {
  if (only !== undefined && !parts.includes(only))
    throw new Fault(`There is no part “${only}”`, `Choose one of ${parts.join(', ')}.`);
  checkNode();
  installModules();
  installPostgres();
  installBrowser();
  build();
  const results = join(state, 'test-results');
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });
  let passed = 0;
  let failed = 0;
  const count = (part, tally) => {
    passed += tally.passed;
    failed += tally.failed;
    say(`${part}: ${tally.passed} passed, ${tally.failed} failed`);
  };
  const wanted = (part) => only === undefined || only === part;

  if (wanted('lint')) {
    const lint = quietly('npm', ['run', '-s', 'lint']);
    const types = quietly('npx', ['--no-install', 'tsc', '-p', 'tsconfig.tests.json']);
    count('lint', { passed: Number(lint) + Number(types), failed: Number(!lint) + Number(!types) });
  }
  if (wanted('unit')) count('unit', vitest('unit', results, {}));
  if (wanted('integration')) {
    // Each file has a database of its own: it says from the first line on what is there.
    const tests = readdirSync(join(root, 'apps/server/test')).filter((name) => name.endsWith('.test.ts'));
    const tally = { passed: 0, failed: 0 };
    for (const name of tests) {
      const stage = await raiseStage({ load: ['--bare'] });
      try {
        const one = vitest('integration', results, { ...stage.env, VELVET_TEST_URL: stage.url }, [name]);
        tally.passed += one.passed;
        tally.failed += one.failed;
      } finally {
        await stage.strike();
      }
    }
    count('integration', tally);
  }
  if (wanted('e2e')) {
    const stage = await raiseStage({ load: ['--bare'] });
    try {
      count('e2e', playwright(results, { ...stage.env, VELVET_TEST_URL: stage.url }));
    } finally {
      await stage.strike();
    }
  }
  say(`${passed} passed, ${failed} failed`);
  return failed > 0 ? 1 : 0;
}

/** Runs a programme, showing what it said only where it failed. */
function quietly(program, args, env = {}) {
  const done = spawnSync(program, args, {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, ...env },
    maxBuffer: 1 << 28,
  });
  if (done.status !== 0) process.stdout.write(`${done.stdout}${done.stderr}\n`);
  return done.status === 0;
}

function vitest(project, results, env, files = []) {
  const file = join(results, `${project}.json`);
  const green = quietly(
    'npx',
    [
      '--no-install',
      'vitest',
      'run',
      '--project',
      project,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${file}`,
      ...files,
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

function playwright(results, env) {
  const file = join(results, 'e2e.json');
  const green = quietly('npx', ['--no-install', 'playwright', 'test', '--reporter=line,json'], {
    ...env,
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
    PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1',
  });
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
