/** The way to a first feed: what is set, what is next. Each step is looked at where it is done; nothing is remembered. */
import type { Step } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { findCompany } from '../company/settings.js';
import { type Executor, queryOne } from '../db/client.js';

interface Held {
  /** It was made here, not loaded with all its set-up. */
  founded: boolean;
  variants: number;
  families: number;
  batch: number | null;
  file: string | null;
  channel: string | null;
  place: number | null;
  placeName: string | null;
  listings: number;
  ready: number;
  blocked: number;
  feed: number | null;
  sent: number | null;
}

const lookAt = (on: Executor) =>
  queryOne<Held>(
    on,
    sql`SELECT
      EXISTS (SELECT 1 FROM action WHERE kind = 'found') AS founded,
      (SELECT count(*) FROM product WHERE kind IN ('variant', 'single') AND stands) AS variants,
      (SELECT count(*) FROM product WHERE kind = 'family') AS families,
      (SELECT min(id) FROM batch WHERE state = 'applied') AS batch,
      (SELECT file_name FROM batch WHERE state = 'applied' ORDER BY id LIMIT 1) AS file,
      (SELECT name FROM channel WHERE rulebook_id IS NOT NULL ORDER BY id LIMIT 1) AS channel,
      (SELECT min(id) FROM place) AS place,
      (SELECT name FROM place ORDER BY id LIMIT 1) AS "placeName",
      (SELECT coalesce(sum(listings), 0) FROM place_total WHERE readiness IN ('ready', 'blocked')) AS listings,
      (SELECT coalesce(sum(listings), 0) FROM place_total WHERE readiness = 'ready') AS ready,
      (SELECT coalesce(sum(listings), 0) FROM place_total WHERE readiness = 'blocked') AS blocked,
      (SELECT min(id) FROM feed) AS feed,
      (SELECT (r.counts ->> 'sent')::int FROM run r JOIN feed f ON f.up_run_id = r.id ORDER BY r.id LIMIT 1) AS sent`,
  );

const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

export async function showSteps(on: Executor): Promise<{ items: Step[]; headline: string }> {
  const company = await findCompany(on);
  const held = await lookAt(on);
  if (!company || !held?.founded) return { items: [], headline: '' };
  const { variants, families, batch, file, channel, place, placeName, ready, blocked, feed, sent } = held;
  const step = (name: Step['step'], isDone: boolean, words: string, to: string, verb: string): Step => ({
    step: name,
    isDone,
    words,
    to,
    verb,
  });
  const goods = `${count(variants, 'variant')}${families > 0 ? ` of ${count(families, 'family', 'families')}` : ''}`;
  const items = [
    step(
      'company',
      true,
      `${company.name} · ${sayLanguage(company.home)} · ${company.currencies.join(' and ')}`,
      '/company',
      'Change',
    ),
    step(
      'goods',
      variants > 0,
      variants > 0
        ? `${file === null ? '' : `${file}: `}${goods}`
        : 'Drop a file of yours or of a supplier; what it makes is shown before anything is kept',
      batch === null ? '/intake' : `/intake/${batch}`,
      variants > 0 ? 'Look' : 'Bring in',
    ),
    step(
      'channel',
      channel !== null,
      channel ?? 'Load a rulebook, describe a small one yourself, or begin with one that ships',
      '/channels',
      channel === null ? 'Choose' : 'Change',
    ),
    step(
      'place',
      place !== null,
      placeName ?? 'Market, language, currency, and which goods',
      place === null ? '/channels' : `/places/${place}/goods`,
      place === null ? 'Set' : 'Change',
    ),
    step(
      'fit',
      ready > 0 && blocked === 0,
      ready + blocked === 0
        ? 'Categories and fields, then what still blocks'
        : `${count(ready, 'listing')} ready, ${blocked} blocked`,
      place === null || ready + blocked === 0 ? '/channels' : ready === 0 ? `/places/${place}/categories` : '/causes',
      ready + blocked === 0 ? 'Look' : 'Fit',
    ),
    step(
      'feed',
      sent !== null,
      sent === null ? 'Checked, at an address of its own' : `${count(sent, 'item')} at its address`,
      feed === null ? '/feeds' : `/feeds/${feed}`,
      sent === null ? 'Make' : 'Look',
    ),
  ];
  return { items, headline: sayNext(items, variants) };
}

function sayNext(items: readonly Step[], variants: number): string {
  const next = items.find(({ isDone }) => !isDone)?.step;
  const isIn = `${count(variants, 'variant is', 'variants are')} in.`;
  switch (next) {
    case 'goods':
      return 'The shelf stands. Next: the first goods.';
    case 'channel':
      return `${isIn} Next: where they are sold.`;
    case 'place':
      return `${isIn} Next: a place on the channel.`;
    case 'fit':
      return `${isIn} Next: fit them to the channel.`;
    case 'feed':
      return `${isIn} Next: the feed.`;
    default:
      return 'Everything is set.';
  }
}
