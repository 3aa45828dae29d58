/** Installs what is missing: packages of Debian (with sudo where not root) and of npm (where the lock changed). */
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { has, root, run } from './run.mjs';
import { Fault, say } from './say.mjs';

export const state = join(root, '.velvet');
mkdirSync(state, { recursive: true });

export function checkNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Fault(`Node ${process.versions.node} is too old`, 'Install Node 20.19 or newer.');
}

/** Directory of the newest PostgreSQL server programmes, or undefined. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  const versions = readdirSync(base)
    .map(Number)
    .filter((version) => existsSync(join(base, String(version), 'bin', 'initdb')))
    .sort((a, b) => b - a);
  return versions[0] === undefined
    ? undefined
    : { version: versions[0], directory: join(base, String(versions[0]), 'bin') };
}

export function installPostgres() {
  if (postgresPrograms()) return;
  say('installing PostgreSQL from Debian');
  const conf = '/etc/postgresql-common/createcluster.conf';
  asRoot([
    'sh',
    '-c',
    `mkdir -p /etc/postgresql-common && { test -e ${conf} || echo 'create_main_cluster = false' > ${conf}; }`,
  ]);
  aptInstall(['postgresql']);
}

/** Chromium without its windows, which does with two thirds of the work; or the whole one, where there is only that. */
const browsers = ['chromium-headless-shell', 'chromium'];

/** Path of the browser that is installed. */
export const browserPath = () => {
  const name = browsers.find(has);
  return name && `/usr/bin/${name}`;
};

export function installBrowser() {
  if (browserPath()) return;
  say('installing Chromium from Debian');
  try {
    aptInstall(['chromium-headless-shell']);
  } catch {
    aptInstall(['chromium']);
  }
}

function aptInstall(packages) {
  const advice = `Install ${packages.join(', ')} by hand, or run as root or with sudo, then try again.`;
  asRoot(['apt-get', 'update', '-qq'], advice);
  asRoot(
    [
      'env',
      'DEBIAN_FRONTEND=noninteractive',
      'apt-get',
      'install',
      '-y',
      '-qq',
      '--no-install-recommends',
      ...packages,
    ],
    advice,
  );
}

function asRoot(command, advice) {
  const [program, ...args] = process.getuid() === 0 ? command : ['sudo', '-n', ...command];
  run(program, args, { advice });
}

export function installModules() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.velvet-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('installing packages of npm');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    advice: 'Check that the npm registry can be reached.',
  });
  writeFileSync(stamp, lock);
}
