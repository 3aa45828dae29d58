/** The company is made, and changed later with goods already in. */
import { type Company, type starts, companySchema } from '@velvet-shelf/contract';
import { computedAttributes, startSet } from '@velvet-shelf/core/catalog';
import { type ListValue, canonical } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { addAttributes, addValues } from '../dictionary/new.js';
import { resolveAnew } from '../history/follow.js';
import { loadCompany } from '../company/settings.js';
import type { Executor } from '../db/client.js';
import { act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { conflict, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { runAside } from '../jobs/aside.js';
import * as tables from '../db/schema/index.js';
import { sql } from 'drizzle-orm';

/** Makes the company with what it begins with: attributes, its own sheet, a warehouse of its own. */
export async function foundCompany(
  services: Services,
  user: User,
  { start, ...company }: Company & { start: (typeof starts)[number] },
): Promise<void> {
  await act(services, user, { kind: 'found', tells: ['company', 'catalog'] }, async (on) => {
    const made = await on.tx.insert(tables.company).values(company).onConflictDoNothing().returning();
    if (made.length === 0) throw conflict('The company is made already: change it in Company and people');
    const [home = ''] = company.languages;
    const attributes = [...(start === 'common' ? startSet : []), ...computedAttributes];
    const rows = await addAttributes(on.tx, attributes);
    for (const { key, choices } of attributes) {
      const row = rows.find((each) => each.key === key);
      if (row && choices)
        await addValues(
          on.tx,
          row.id,
          choices.map((choice) => startValue(choice, home)),
        );
    }
    await on.tx
      .insert(tables.supplier)
      .values({ key: 'own', name: `${company.name}, own sheet`, rank: 1, kind: 'own', language: home });
    await on.tx.insert(tables.warehouse).values({ key: 'own', name: `${company.name}, warehouse` });
    on.say(`Made the company ${company.name}`);
    on.change({ kind: 'company', id: 1, delta: { created: [company] } });
  });
}

/** What a list begins with, by the name it has so far, in the company's own language. */
const startValue = (choice: string | ListValue, home: string) => {
  if (typeof choice === 'string') return { key: choice, names: { [home]: choice } };
  const [name = choice.key] = Object.values(choice.names);
  return { key: choice.key, names: { [home]: name }, spellings: choice.spellings };
};

const settingsOf = (company: Company): Company => companySchema.parse(company);

/** Keeps its settings; where its languages or its own currency are others now, all goods are resolved anew by a job, which is answered. */
export async function changeCompany(
  services: Services,
  user: User,
  { version, ...to }: Company & { version: number },
): Promise<number | null> {
  const { answer: job } = await act(services, user, { kind: 'company', tells: ['company', 'catalog'] }, async (on) => {
    await on.tx.execute(sql`SELECT 1 FROM company FOR UPDATE`);
    const { version: now, ...held } = await loadCompany(on.tx);
    const was = settingsOf(held);
    if (now !== version)
      throw stale('Somebody changed the company meanwhile: look at it as it is now', { current: was });
    const delta = Object.fromEntries(
      (Object.keys(to) as (keyof Company)[]).flatMap((field) =>
        canonical(was[field]) === canonical(to[field]) ? [] : [[field, [was[field], to[field]]]],
      ),
    );
    if (Object.keys(delta).length === 0) return null;
    on.say('Changed the company’s settings');
    on.change({ kind: 'company', id: 1, delta });
    return writeCompany(on.tx, was, to, on.id);
  });
  if (job !== null) runAside(job).catch(() => undefined);
  return job;
}

async function writeCompany(tx: Executor, was: Company, to: Company, action: number): Promise<number | null> {
  await tx.update(tables.company).set({ ...to, version: sql`${tables.company.version} + 1` });
  const follows = canonical(was.languages) !== canonical(to.languages) || was.currencies[0] !== to.currencies[0];
  return follows ? resolveAnew(tx, 'Bringing all goods in line with the company', action) : null;
}

/** Puts each setting back that is still as it was made. */
export async function undoCompany({ tx, actionId, by }: Undoing): Promise<Undone> {
  const left: string[] = [];
  const now = settingsOf(await loadCompany(tx));
  const to: Record<string, unknown> = { ...now };
  for (const { delta } of await changesOf(tx, actionId, 'company', z.record(z.string(), z.array(z.unknown()))))
    for (const [field, [before, after]] of Object.entries(delta))
      if (canonical(to[field]) === canonical(after)) to[field] = before;
      else left.push(`${field}: changed since`);
  // Nobody waits for what follows: the sweep finds it.
  await writeCompany(tx, now, companySchema.parse(to), by);
  return { left };
}
