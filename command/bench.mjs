/** ./velvet bench: ratios to a baseline of the same run, on built JavaScript and a private cluster. */
import { join } from 'node:path';
import { build } from './build.mjs';
import { browserPath, checkNode, installBrowser, installModules, installPostgres } from './install.mjs';
import { collect, root } from './run.mjs';
import { Fault, say } from './say.mjs';
import { raiseGround } from './stage.mjs';

/** What each needs: the demo's loader arguments for its database, or none. */
const needs = {
  checks: undefined,
  matching: undefined,
  feed: (size) => ['--size', sizes[size]],
  intake: () => [],
  answers: (size) => ['--size', sizes[size]],
  edits: (size) => ['--size', sizes[size]],
  fitting: (size) => ['--size', sizes[size]],
  listings: (size) => ['--size', sizes[size]],
  grid: (size) => ['--size', sizes[size]],
};
const names = Object.keys(needs);
const sizes = { 1000: '1k', 10000: '10k', 100000: '100k' };

export async function bench({ json, only, size }) {
  if (only !== undefined && !names.includes(only))
    throw new Fault(`There is no benchmark “${only}”`, `Choose one of ${names.join(', ')}.`);
  if (size !== undefined && !(size in sizes))
    throw new Fault(`There is no size ${size}`, `Choose one of ${Object.keys(sizes).join(', ')}.`);
  checkNode();
  installModules();
  installPostgres();
  if (only === undefined || only === 'grid') installBrowser();
  build();
  const lines = [];
  const take = (output) => {
    for (const text of output.trim().split('\n')) {
      const line = JSON.parse(text);
      lines.push(line);
      say(
        json
          ? text
          : `${line.name.padEnd(20)} ${String(line.ratio).padStart(7)} ×  reach ${line.reach.padEnd(6)} ${line.holds ? 'holds' : 'MISSES'}  ${JSON.stringify(line.figures)}`,
      );
    }
  };
  const main = join(root, 'bench/dist/main.js');
  for (const count of size === undefined ? [10_000, 100_000] : [Number(size)]) {
    for (const name of names.filter((one) => only === undefined || only === one)) {
      const load = needs[name]?.(count);
      if (load === undefined) {
        take(await measured(main, name, count));
        continue;
      }
      // The memory that the demo and an installation have.
      const ground = await raiseGround({ load, buffers: '1GB' });
      try {
        // What answers requests is a server with its files.
        const stage = ['answers', 'edits', 'fitting', 'grid'].includes(name) ? await ground.stage() : undefined;
        const env = stage ? { ...stage.env, VELVET_TEST_URL: stage.url, VELVET_BROWSER: browserPath() } : ground.env;
        take(await measured(main, name, count, env));
        await stage?.strike();
      } finally {
        await ground.strike();
      }
    }
  }
  return lines.every((line) => line.holds) ? 0 : 1;
}

async function measured(main, name, count, env = {}) {
  const { status, out, error } = await collect(process.execPath, [main, name, String(count)], { env });
  if (status !== 0) throw new Fault(`The benchmark “${name}” failed\n${out}${error}`.trimEnd());
  return out;
}
