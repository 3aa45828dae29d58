/** The simulated channels: a server of its own on loopback, that knows nothing of Velvet Shelf but the addresses it is given. */
import { createServer } from 'node:http';
import Router from '@koa/router';
import Koa from 'koa';
import pg from 'pg';
import { orrivane } from './orrivane/routes.js';
import { quernby } from './quernby/routes.js';
import { skarvelund } from './skarvelund/routes.js';
import { tansel } from './tansel/routes.js';
import { windowsill } from './windowsill/routes.js';

const address = process.env.VELVET_STANDINS;
const database = process.env.DATABASE_URL;
if (!address || !database) throw new Error('VELVET_STANDINS and DATABASE_URL must be set');

const pool = new pg.Pool({ connectionString: database, max: 4, application_name: 'stand-ins' });
pool.on('error', () => undefined);
const app = new Koa();
app.use(async (ctx, next) => {
  try {
    await next();
  } catch (error) {
    ctx.status = (error as { status?: number }).status ?? 500;
    ctx.body = { problem: error instanceof Error ? error.message : String(error) };
  }
});
const router = new Router();
await orrivane(router, pool);
await windowsill(router, pool);
await quernby(router, pool);
await skarvelund(router, pool);
await tansel(router, pool);
app.use(router.routes());
const answer = app.callback();
const server = createServer((request, response) => void answer(request, response));
server.listen(Number(new URL(address).port), '127.0.0.1');

const end = () => {
  server.close();
  server.closeAllConnections();
  void pool.end().then(() => process.exit(0));
};
process.on('SIGTERM', end);
process.on('SIGINT', end);

/** Whoever started us may be killed without a chance to end us. */
const parent = Number(process.env.VELVET_PARENT);
if (parent)
  setInterval(() => {
    try {
      process.kill(parent, 0);
    } catch {
      end();
    }
  }, 2_000).unref();
