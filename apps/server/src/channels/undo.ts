/** Taking set-up back: what an action changed, where nobody has changed it since. */
import type { Fill } from '@velvet-shelf/core/fills';
import { sql } from 'drizzle-orm';
import { queryOne, queryRows } from '../db/client.js';
import type { Undoing, Undone } from '../history/undo.js';
import { writeFill, currentFill } from './fills.js';
import { placesOf } from './service.js';

/** Takes a change of set-up back where it still stands. */
export async function undoSetup({ tx, actionId, dirtyPlace }: Undoing): Promise<Undone> {
  const changes = await queryRows<{ id: number; delta: Record<string, [unknown, unknown]> }>(
    tx,
    sql`SELECT subject_id AS id, delta FROM change WHERE action_id = ${actionId} AND subject_kind = 'channel'`,
  );
  const left: string[] = [];
  for (const { id, delta } of changes)
    for (const [field, [before, after]] of Object.entries(delta)) {
      const name = field.slice(field.indexOf(':') + 1);
      if (field.startsWith('fill:')) {
        const current = await currentFill(tx, id, name);
        if (JSON.stringify(current) === JSON.stringify(after))
          await writeFill({ tx, dirtyPlace }, id, name, before as Fill | null);
        else left.push(`the fill of ${name}: changed since`);
      } else if (field.startsWith('map:')) {
        const current =
          (
            await queryOne<{ target: string }>(
              tx,
              sql`SELECT target FROM category_map WHERE channel_id = ${id} AND market = '' AND category = ${name}`,
            )
          )?.target ?? null;
        if (current !== after) {
          left.push(`${name}: mapped again since`);
          continue;
        }
        if (before === null)
          await tx.execute(
            sql`DELETE FROM category_map WHERE channel_id = ${id} AND market = '' AND category = ${name}`,
          );
        else
          await tx.execute(
            sql`INSERT INTO category_map (channel_id, category, target) VALUES (${id}, ${name}, ${before as string}) ON CONFLICT (channel_id, market, category) DO UPDATE SET target = excluded.target`,
          );
        for (const placeId of await placesOf(tx, id)) await dirtyPlace(placeId, { categories: [name] });
      }
    }
  return { left };
}
