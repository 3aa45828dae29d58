/** A stage for tests and benchmarks: a passing cluster, the built server and stand-ins on free ports, gone when struck. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, passingCluster } from './postgres.mjs';
import { root, run, startNode, stop } from './run.mjs';
import { Fault } from './say.mjs';

/** `load`: arguments of the demo's loader, or undefined for an empty database; `servers: false` for the database alone. */
export async function raiseStage({ load, servers = true } = {}) {
  const cluster = passingCluster();
  const files = mkdtempSync(join(tmpdir(), 'velvet-files-'));
  const children = [];
  const strike = async () => {
    for (const child of [...children].reverse()) await stop(child);
    cluster.stop();
    rmSync(files, { recursive: true, force: true });
  };
  try {
    const database = await cluster.start();
    const [port, standins] = [await freePort(), await freePort()];
    const env = {
      DATABASE_URL: database,
      VELVET_PORT: String(port),
      VELVET_FILES: files,
      VELVET_WEB: join(root, 'apps/web/dist'),
      VELVET_STANDINS: `http://127.0.0.1:${standins}`,
      VELVET_MAX_UPLOAD: String(5_000_000),
    };
    run(process.execPath, [join(root, 'apps/server/dist/db/migrate.js')], { env });
    if (load) run(process.execPath, [join(root, 'demo/dist/load.js'), ...load], { env });
    if (!servers) return { url: '', env, strike };
    children.push(startNode(join(root, 'apps/standins/dist/main.js'), { env, name: 'stand-ins' }));
    children.push(startNode(join(root, 'apps/server/dist/main.js'), { env, name: 'server' }));
    const url = `http://127.0.0.1:${port}`;
    await answering(`${url}/api/health`);
    await answering(`${env.VELVET_STANDINS}/orrivo`);
    return { url, env, strike };
  } catch (error) {
    await strike();
    throw error;
  }
}

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
