/** A simulated channel publishes its rulebooks. */
import type Router from '@koa/router';
import { rulebooksOf } from '@velvet-shelf/rulebooks';

interface Published {
  version: string;
  validFrom: string;
}

export function publishing(router: Router, channel: string): void {
  const published = () => rulebooksOf(channel) as Published[];
  router.get(`/${channel}/rulebooks`, (ctx) => {
    ctx.body = { versions: published().map(({ version, validFrom }) => ({ version, validFrom })) };
  });
  router.get(`/${channel}/rulebooks/:version`, (ctx) => {
    const found = published().find((row) => row.version === ctx.params.version);
    if (!found) ctx.throw(404);
    ctx.body = found;
  });
}
