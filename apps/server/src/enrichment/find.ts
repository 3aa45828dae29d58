/** Goes through the texts of many goods for values they do not have; what it finds waits for a person. */
import type { ProposalAnswer } from '@velvet-shelf/contract';
import { sql } from 'drizzle-orm';
import { heldIn } from '../catalog/held.js';
import { type Executor, ids, json } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import type { JobContext } from '../jobs/define.js';
import type { UnitsInput } from './jobs.js';
import { type Proposing, proposing } from './proposals.js';

const atOnce = 200;

interface Found extends ProposalAnswer {
  product: number;
  attributeId: number;
}

/** Job: unit by unit in their order; taken up again where it was left, twice is as once. */
export async function findValues({
  db,
  services,
  input: { units },
  checkpoint,
  progress,
  saveCheckpoint,
  cancelled,
  finish,
}: JobContext<UnitsInput>): Promise<void> {
  const dictionary = await loadDictionary(db);
  const propose = proposing(dictionary);
  for (let done = Number(checkpoint?.done ?? 0); done < units.length; done += atOnce) {
    await progress(done, units.length);
    if (await cancelled()) break;
    const part = units.slice(done, done + atOnce);
    await db.transaction(async (tx) => {
      const { found, products } = await readTexts(tx, part, propose, dictionary);
      await keep(tx, products, found);
      await saveCheckpoint(tx, { done: done + part.length });
    });
  }
  await db.transaction((tx) => finish(tx));
  services.notify('found');
}

async function readTexts(
  tx: Executor,
  units: readonly number[],
  propose: Proposing,
  dictionary: Awaited<ReturnType<typeof loadDictionary>>,
): Promise<{ found: Found[]; products: number[] }> {
  const found: Found[] = [];
  const products: number[] = [];
  for (const { product, slots } of await heldIn(tx, units, dictionary)) {
    products.push(product.id);
    for (const proposal of propose(product.kind, slots))
      found.push({ ...proposal, product: product.id, attributeId: dictionary.ids.get(proposal.attribute) ?? 0 });
  }
  return { found, products };
}

/** What is found no more goes; what was turned down stays so as long as the texts say the same. */
async function keep(tx: Executor, products: readonly number[], found: readonly Found[]): Promise<void> {
  const rows = found.map(({ product, attributeId, text, held, score, evidence }) => ({
    ...{ product, attribute: attributeId, value: text, held, score },
    ...{ language: evidence.language, part: evidence.in },
    ...{ before: evidence.before, words: evidence.words, after: evidence.after },
  }));
  const table = sql`jsonb_to_recordset(${json(rows)}) AS t(product bigint, attribute bigint, value text, held text, score real,
    language text, part text, before text, words text, after text)`;
  await tx.execute(sql`
    DELETE FROM found_value f WHERE f.product_id = ANY(${ids(products)})
      AND NOT EXISTS (SELECT 1 FROM ${table} WHERE t.product = f.product_id AND t.attribute = f.attribute_id)`);
  if (rows.length === 0) return;
  await tx.execute(sql`
    INSERT INTO found_value (product_id, attribute_id, value, held, score, language, part, before, words, after)
    SELECT product, attribute, value, held, score, language, part, before, words, after FROM ${table}
    ON CONFLICT (product_id, attribute_id) DO UPDATE SET held = excluded.held, score = excluded.score, language = excluded.language,
      part = excluded.part, before = excluded.before, words = excluded.words, after = excluded.after, found_at = now(),
      declined = found_value.declined AND found_value.value = excluded.value, value = excluded.value`);
}
