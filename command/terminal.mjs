/** ./velvet code and ./velvet password: what is asked of the shelf of ./velvet start from the terminal, whether it runs or not. */
import { join } from 'node:path';
import { build } from './build.mjs';
import { checkNode, installModules, installPostgres } from './install.mjs';
import { checkoutCluster } from './postgres.mjs';
import { root, run } from './run.mjs';

export async function terminal(args) {
  checkNode();
  installModules();
  const external = process.env.DATABASE_URL;
  if (!external) installPostgres();
  build();
  const cluster = external ? undefined : checkoutCluster('main');
  const wasUp = cluster?.isUp();
  const env = { DATABASE_URL: external ?? (await cluster.start()) };
  try {
    run(process.execPath, [join(root, 'apps/server/dist/db/migrate.js')], { env });
    run(process.execPath, [join(root, 'apps/server/dist/session/terminal.js'), ...args], { env, loud: true });
  } finally {
    if (wasUp === false) cluster.stop();
  }
}
