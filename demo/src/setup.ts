/** Writes the scenario's set-up into an empty database: people, dictionary, tree, suppliers, Orrivane, its place. */
import { fileURLToPath } from 'node:url';
import { shippedRulebooks } from '@velvet-shelf/server/channels/shipped';
import { type Database, json, queryOne, queryRows } from '@velvet-shelf/server/db/client';
import { hashPassword } from '@velvet-shelf/server/session/service';
import { sql } from 'drizzle-orm';
import * as schema from '@velvet-shelf/server/db/schema/index';
import { assortment, categories, categoryMaps, company, dictionary, fills, suppliers, users } from './scenario.js';

export const demoFiles = fileURLToPath(new URL('../files', import.meta.url));

/** The closed lists of the dictionary, and our tree as that of its category. */
async function writeLists(db: Database): Promise<void> {
  const tree = categories.map(({ key, name, parent }) => ({ attribute: 'category', key, name, parent }));
  const lists = dictionary.flatMap(({ key: attribute, choices = [] }) =>
    choices.flatMap((key) => (typeof key === 'string' ? [{ attribute, key, name: key, parent: null }] : [])),
  );
  const values = [...tree, ...lists].map((value, position) => ({ ...value, position }));
  await db.execute(sql`
    INSERT INTO list_value (attribute_id, key, names, position)
    SELECT a.id, t.key, json_build_object(${company.languages[0]}::text, t.name), t.position
    FROM jsonb_to_recordset(${json(values)}) AS t(attribute text, key text, name text, position int) JOIN attribute a ON a.key = t.attribute`);
  await db.execute(sql`
    UPDATE list_value v SET parent_id = p.id
    FROM jsonb_to_recordset(${json(tree)}) AS t(attribute text, key text, parent text) JOIN attribute a ON a.key = t.attribute
    JOIN list_value p ON p.attribute_id = a.id AND p.key = t.parent WHERE v.attribute_id = a.id AND v.key = t.key`);
}

/** `standins` is the address of the simulated channels. */
export async function writeSetup(db: Database, standins: string): Promise<{ owner: number; place: number }> {
  await db.insert(schema.company).values(company);
  for (const { password, ...user } of users)
    await db.execute(
      sql`INSERT INTO user_account (email, name, role, password_hash, last_visit) VALUES (${user.email}, ${user.name}, ${user.role}, ${await hashPassword(password)}, now() - interval '14 hours')`,
    );
  await db.execute(sql`
    INSERT INTO attribute (key, label, type, many, per_language, level, dimension, role, aliases, "group", position)
    SELECT key, label, type, many, "perLanguage", level, dimension, role, coalesce(aliases, '[]'), "group", position
    FROM jsonb_to_recordset(${json(dictionary.map((attribute, position) => ({ ...attribute, position })))})
      AS t(key text, label text, type text, many boolean, "perLanguage" boolean, level text, dimension text, role text, aliases jsonb, "group" text, position int)`);
  await writeLists(db);
  await db.execute(sql`
    INSERT INTO supplier (key, name, rank, kind, language) SELECT key, name, rank, kind, language
    FROM jsonb_to_recordset(${json(suppliers)}) AS t(key text, name text, rank int, kind text, language text)`);
  await db.execute(sql`INSERT INTO warehouse (key, name) VALUES ('home', 'Mosswick warehouse')`);

  const channel = await queryOne<{ id: number }>(
    db,
    sql`INSERT INTO channel (key, name) VALUES ('orrivane', 'Orrivane') RETURNING id`,
  );
  const channelId = channel?.id ?? 0;
  const versions = shippedRulebooks('orrivane');
  const loaded = await queryRows<{ id: number; version: string }>(
    db,
    sql`INSERT INTO rulebook (channel_id, version, valid_from, body)
        SELECT ${channelId}, body ->> 'version', body ->> 'validFrom', body FROM jsonb_array_elements(${json(versions)}) AS t(body) RETURNING id, version`,
  );
  await db.execute(
    sql`UPDATE channel SET rulebook_id = ${loaded.find((rulebook) => rulebook.version === versions[0]?.version)?.id ?? null} WHERE id = ${channelId}`,
  );
  const account = await queryOne<{ id: number }>(
    db,
    sql`INSERT INTO account (channel_id, name, address, state) VALUES (${channelId}, 'Mosswick Supply', ${`${standins}/orrivane`}, 'connected') RETURNING id`,
  );
  const market = versions[0]?.markets.find((market) => market.key === 'GB');
  const place = await queryOne<{ id: number }>(
    db,
    sql`INSERT INTO place (account_id, market, name, country, language, currency, assortment)
        VALUES (${account?.id ?? 0}, 'GB', 'Orrivane, Great Britain', ${market?.country ?? 'GB'}, ${market?.language ?? 'en-GB'}, ${market?.currency ?? 'GBP'}, ${json(assortment)}) RETURNING id`,
  );
  await db.execute(sql`
    INSERT INTO category_map (channel_id, category, target) SELECT ${channelId}, key, value FROM jsonb_each_text(${json(categoryMaps)})`);
  await db.execute(sql`
    INSERT INTO fill (channel_id, attribute, fill) SELECT ${channelId}, key, value FROM jsonb_each(${json(fills)})`);
  const owner = await queryOne<{ id: number }>(db, sql`SELECT id FROM user_account WHERE role = 'owner'`);
  await db.execute(sql`
    INSERT INTO pull (supplier_id, name, address, actor) SELECT id, 'Windowsill shop', ${`${standins}/windowsill/api/goods`}, ${owner?.id ?? 0} FROM supplier WHERE key = 'windowsill'`);
  return { owner: owner?.id ?? 0, place: place?.id ?? 0 };
}
