/** ./velvet demo and ./velvet start: database, server, stand-ins, until Ctrl-C. */
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from './build.mjs';
import { checkNode, installModules, installPostgres, state } from './install.mjs';
import { checkoutCluster, freePort, isFree } from './postgres.mjs';
import { root, run, startNode, stop } from './run.mjs';
import { Fault, say } from './say.mjs';

const usualPort = 4180;
/** Ends within a minute after which a programme is not started again. */
const mostEnds = 4;

/** Ports of 1024 and above that browsers refuse to open (WHATWG Fetch, "bad port"). */
const refusedByBrowsers = new Set([
  1719, 1720, 1723, 2049, 3659, 4045, 4190, 5060, 5061, 6000, 6566, 6665, 6666, 6667, 6668, 6669, 6679, 6697, 10080,
]);

export async function serve({ demo, port: wanted, fresh, bare, size }) {
  checkNode();
  installModules();
  const external = process.env.DATABASE_URL;
  if (!external) installPostgres();
  build();

  const files = join(state, demo ? 'demo-files' : 'files');
  const cluster = external ? undefined : checkoutCluster(demo ? 'demo' : 'main');
  if (fresh) {
    if (external)
      throw new Fault('--fresh works on the private database only', 'Empty the database at DATABASE_URL by hand.');
    cluster.erase();
    rmSync(files, { recursive: true, force: true });
  }
  mkdirSync(files, { recursive: true });

  const children = [];
  let ending;
  const end = (code) =>
    (ending ??= (async () => {
      for (const child of [...children].reverse()) await stop(child);
      cluster?.stop();
      process.exit(code);
    })());
  /** Starts a programme, and starts it again where it ends by itself; one that keeps ending is given up. */
  const keepUp = (script, name, ends = []) => {
    const child = startNode(script, { env, name });
    children.push(child);
    child.once('exit', (code, signal) => {
      children.splice(children.indexOf(child), 1);
      if (ending) return;
      const lately = [...ends, Date.now()].filter((at) => at > Date.now() - 60_000);
      const how = signal ?? `code ${code}`;
      if (lately.length > mostEnds) {
        process.stderr.write(
          `The ${name} ended ${lately.length} times within a minute (${how}).\nLook at what it printed above.\n`,
        );
        void end(1);
        return;
      }
      process.stderr.write(`The ${name} ended by itself (${how}); it is started again.\n`);
      setTimeout(() => void (ending ? undefined : keepUp(script, name, lately)), 500 * lately.length);
    });
  };
  let env = {};
  process.on('SIGINT', () => void end(0));
  process.on('SIGTERM', () => void end(0));
  process.on('SIGHUP', () => void end(0));

  try {
    say(external ? 'using the database of DATABASE_URL' : 'starting PostgreSQL');
    const database = external ?? (await cluster.start());
    const port = wanted === undefined ? await portOr(usualPort) : await exactly(Number(wanted));
    const standins = demo ? await freePort() : undefined;
    env = {
      DATABASE_URL: database,
      VELVET_PORT: String(port),
      VELVET_FILES: files,
      VELVET_WEB: join(root, 'apps/web/dist'),
      ...(standins
        ? { VELVET_STANDINS: `http://127.0.0.1:${standins}`, VELVET_PRIVATE_HOSTS: `127.0.0.1:${standins}` }
        : {}),
    };
    run(process.execPath, [join(root, 'apps/server/dist/db/migrate.js')], { env });
    const programmes = [];
    if (demo) {
      const args = [...(bare ? ['--bare'] : []), ...(size ? ['--size', size] : [])];
      run(process.execPath, [join(root, 'demo/dist/load.js'), ...args], { env, loud: true });
      programmes.push([join(root, 'apps/standins/dist/main.js'), 'stand-ins']);
    }
    programmes.push([join(root, 'apps/server/dist/bundled/main.js'), 'server']);
    for (const [script, name] of programmes) keepUp(script, name);
    await healthy(port, 60_000);
    say(`ready http://127.0.0.1:${port}`);
    run(process.execPath, [join(root, 'apps/server/dist/session/terminal.js')], { env, loud: true });
    if (demo)
      say(
        `sign in as iris@mosswick.example with the password shelf-demo\nthe Orrivane stand-in: http://127.0.0.1:${standins}/orrivane`,
      );
    say('Ctrl-C stops everything this command started');
  } catch (error) {
    process.stderr.write(`${error.message}\n${error.advice ?? ''}\n`);
    await end(1);
  }
}

async function portOr(port) {
  return (await isFree(port)) ? port : freePort();
}

async function exactly(port) {
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Fault(`${port} is no port`, 'Choose 1024 to 65535.');
  if (refusedByBrowsers.has(port))
    throw new Fault(`Browsers refuse to open port ${port}`, 'Choose another with --port.');
  if (!(await isFree(port))) throw new Fault(`Port ${port} is taken`, 'Choose another with --port.');
  return port;
}

async function healthy(port, limit) {
  const until = Date.now() + limit;
  for (;;) {
    try {
      const answer = await fetch(`http://127.0.0.1:${port}/api/health`);
      if (answer.ok) return;
    } catch {
      // not listening yet
    }
    if (Date.now() > until) throw new Fault('The server did not come up', 'Look at what it printed above.');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
