/** Builds what is stale: TypeScript of core, server, stand-ins and demo, then what starts of the server, then the web application. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { state } from './install.mjs';
import { root, run } from './run.mjs';
import { say } from './say.mjs';

/** TypeScript as a native programme; the older one in JavaScript beside it is what lint reads types with. */
export const compiler = join(root, 'node_modules/typescript-native/bin/tsc');

const sources = ['packages', 'apps', 'demo/src', 'bench/src', 'package-lock.json', 'tsconfig.base.json'];

export function build() {
  const stamp = join(state, 'built');
  const print = createHash('sha256')
    .update(sources.map((path) => walk(join(root, path))).join())
    .digest('hex');
  const whole =
    existsSync(join(root, 'apps/web/dist/index.html')) && existsSync(join(root, 'apps/server/dist/bundled/main.js'));
  if (whole && existsSync(stamp) && readFileSync(stamp, 'utf8') === print) return;
  say('building');
  run(process.execPath, [compiler, '-b']);
  run('npm', ['run', '-s', 'build', '-w', 'apps/server', '-w', 'apps/web']);
  writeFileSync(stamp, print);
}

/** Paths and times of all source files. */
function walk(path) {
  const found = statSync(path);
  if (!found.isDirectory()) return `${path}:${found.mtimeMs}`;
  return readdirSync(path)
    .filter((name) => !['node_modules', 'dist', 'migrations'].includes(name) && !name.endsWith('.tsbuildinfo'))
    .map((name) => walk(join(path, name)))
    .join();
}
