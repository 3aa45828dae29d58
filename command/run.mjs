/** Child processes of the command: run to the end, or kept running until the command ends. */
import { spawn, spawnSync } from 'node:child_process';
import { Fault } from './say.mjs';

export const root = new URL('..', import.meta.url).pathname.replace(/\/$/, '');

/** Runs a programme to its end; its output is shown only where it fails, unless `loud`. */
export function run(program, args, { loud = false, env = {}, cwd = root, advice } = {}) {
  const done = spawnSync(program, args, {
    cwd,
    env: { ...process.env, ...env },
    stdio: loud ? 'inherit' : ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  });
  if (done.status === 0) return done.stdout ?? '';
  const said = loud ? '' : `\n${done.stdout ?? ''}${done.stderr ?? ''}`.trimEnd();
  throw new Fault(
    `${[program, ...args].join(' ')} failed${done.error ? `: ${done.error.message}` : ''}${said}`,
    advice,
  );
}

/** Programmes that `collect` runs now. */
const running = new Set();

/** Runs a programme to its end while this command still hears signals; answers its status and what it wrote. */
export function collect(program, args, { env = {} } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    running.add(child);
    const written = { out: '', error: '' };
    child.stdout.setEncoding('utf8').on('data', (text) => (written.out += text));
    child.stderr.setEncoding('utf8').on('data', (text) => (written.error += text));
    child.once('error', reject);
    child.once('close', (status) => {
      running.delete(child);
      resolve({ status, ...written });
    });
  });
}

/** Ends what `collect` runs. */
export function endCollected() {
  for (const child of running) child.kill('SIGTERM');
}

/** True where a programme can be found. */
export function has(program) {
  return spawnSync('sh', ['-c', `command -v ${program}`], { stdio: 'ignore' }).status === 0;
}

/**
 * Rows come and go by the hundred thousand from the first moment: room for them (megabytes, as much as Node comes to by itself)
 * is there at once, in every thread.
 */
const nodeOptions = ['--enable-source-maps', '--min-semi-space-size=16'];

/** Starts a Node programme in a session of its own, so that Ctrl-C reaches it through us alone. */
export function startNode(script, { env = {}, name }) {
  const child = spawn(process.execPath, [...nodeOptions, script], {
    cwd: root,
    // It ends by itself where this command is killed without a chance to end it.
    env: { ...process.env, ...env, VELVET_PARENT: String(process.pid) },
    stdio: ['ignore', 'inherit', 'inherit'],
    detached: true,
  });
  child.label = name;
  return child;
}

/** Asks a child to end, and makes it end after ten seconds. */
export async function stop(child) {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  const late = setTimeout(() => child.kill('SIGKILL'), 10_000);
  await ended;
  clearTimeout(late);
}
