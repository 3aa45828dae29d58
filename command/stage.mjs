/**
 * Ground and stages for tests and benchmarks. The ground is a passing cluster with one database, migrated and loaded;
 * a stage is a copy of that database and its files, with the built server and stand-ins on free ports. All is gone when struck.
 */
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, passingCluster } from './postgres.mjs';
import { endCollected, root, run, startNode, stop } from './run.mjs';
import { Fault } from './say.mjs';

/** What strikes the grounds and stages that stand. */
const standing = new Set();
const signals = ['SIGINT', 'SIGTERM'];
let isEnding = false;

/** Whoever stops this command early leaves nothing running either. */
function onSignal(signal) {
  isEnding = true;
  endCollected();
  void Promise.allSettled([...standing].map((strike) => strike())).finally(() =>
    process.exit(signal === 'SIGINT' ? 130 : 143),
  );
}

/** Runs `end` once, when struck or when this command is stopped. */
function striking(end) {
  let ended;
  const strike = () =>
    (ended ??= (async () => {
      standing.delete(strike);
      if (standing.size === 0) for (const signal of signals) process.off(signal, onSignal);
      await end();
    })());
  if (standing.size === 0) for (const signal of signals) process.once(signal, onSignal);
  standing.add(strike);
  return strike;
}

/** `load`: arguments of the demo's loader, or undefined for an empty database; `buffers`: PostgreSQL's shared memory. */
export async function raiseGround({ load, buffers } = {}) {
  const cluster = passingCluster({ buffers });
  const files = newFiles();
  const stages = [];
  let raised = 0;
  const strike = striking(async () => {
    await Promise.allSettled(stages.map((one) => one()));
    cluster.stop();
    forget(files);
  });
  try {
    const env = { DATABASE_URL: await cluster.start(), VELVET_FILES: files };
    run(process.execPath, [join(root, 'apps/server/dist/db/migrate.js')], { env });
    if (load) run(process.execPath, [join(root, 'demo/dist/load.js'), ...load], { env });
    return {
      env,
      strike,
      async stage() {
        const stage = await raiseStage({
          cluster,
          ground: files,
          name: `stage_${++raised}`,
          isLoaded: load !== undefined,
        });
        stages.push(stage.strike);
        return stage;
      },
    };
  } catch (error) {
    await strike();
    throw error;
  }
}

async function raiseStage({ cluster, ground, name, isLoaded }) {
  // The command is about to end: whoever asks for a stage now waits for that.
  if (isEnding) await new Promise(() => undefined);
  const files = newFiles();
  const children = [];
  const strike = striking(async () => {
    for (const child of [...children].reverse()) await stop(child);
    forget(files);
  });
  try {
    cpSync(ground, files, { recursive: true });
    const [port, standins] = [await freePort(), await freePort()];
    const env = {
      DATABASE_URL: cluster.copy(name),
      VELVET_PORT: String(port),
      VELVET_FILES: files,
      VELVET_WEB: join(root, 'apps/web/dist'),
      VELVET_STANDINS: `http://127.0.0.1:${standins}`,
      // Channels that a test makes up itself listen on 127.0.0.2.
      VELVET_PRIVATE_HOSTS: `127.0.0.1:${standins},127.0.0.2`,
      VELVET_MAX_UPLOAD: String(5_000_000),
      // Wrong passwords are tried on purpose.
      VELVET_LOG: process.env.VELVET_LOG ?? 'error',
    };
    // On a loaded database the loader only says where the stand-ins are now.
    if (isLoaded) run(process.execPath, [join(root, 'demo/dist/load.js')], { env });
    children.push(startNode(join(root, 'apps/standins/dist/main.js'), { env, name: 'stand-ins' }));
    children.push(startNode(join(root, 'apps/server/dist/bundled/main.js'), { env, name: 'server' }));
    const url = `http://127.0.0.1:${port}`;
    await answering(`${url}/api/health`);
    await answering(`${env.VELVET_STANDINS}/orrivane`);
    return { url, env, strike };
  } catch (error) {
    await strike();
    throw error;
  }
}

const newFiles = () => mkdtempSync(join(tmpdir(), 'velvet-files-'));
const forget = (files) => rmSync(files, { recursive: true, force: true });

async function answering(url) {
  for (let i = 0; i < 300; i++) {
    try {
      if ((await fetch(url)).ok) return;
    } catch {
      // not yet
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Fault(`${url} did not come up`, 'Look at what it printed above.');
}
