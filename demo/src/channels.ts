/** The demo's further channels: added from the rulebooks that ship, with what a person would have set up by now; the rest is left to be worked down. */
import type { Condition } from '@velvet-shelf/core/conditions';
import type { Fill, FillRule } from '@velvet-shelf/core/fills';
import { saveCategories } from '@velvet-shelf/server/channels/categories';
import { saveFills } from '@velvet-shelf/server/channels/fills';
import { addChannel } from '@velvet-shelf/server/channels/own';
import { changeAccount } from '@velvet-shelf/server/channels/own-accounts';
import { addPlace } from '@velvet-shelf/server/channels/own-places';
import { describePresets, savePresets } from '@velvet-shelf/server/channels/presets';
import { everywhere } from '@velvet-shelf/server/channels/slots';
import { suggest } from '@velvet-shelf/server/channels/suggestions';
import { setRate } from '@velvet-shelf/server/company/rates';
import { queryOne } from '@velvet-shelf/server/db/client';
import type { Services, User } from '@velvet-shelf/server/http/route';
import { sql } from 'drizzle-orm';

const copy = (from: string): Fill => ({ rule: { kind: 'copy', from }, fit: [] });
const plain = (from: string): Fill => ({ rule: { kind: 'copy', from }, fit: [{ do: 'plain-text' }] });
const fixed = (value: string): Fill => ({ rule: { kind: 'fixed', value }, fit: [] });
const first = (...from: string[]): Fill => ({
  rule: { kind: 'first', of: from.map((name): FillRule => ({ kind: 'copy', from: name })) },
  fit: [],
});
const translated = (from: string, table: Record<string, string>): Fill => ({
  rule: { kind: 'translate', from, table, otherwise: 'keep' },
  fit: [],
});

/** A price of the place's own currency where there is one, else ours at the rate. */
const priced = (from: string): Fill => ({
  rule: {
    kind: 'first',
    of: [
      { kind: 'copy', from },
      { kind: 'convert', from, currency: 'GBP' },
    ],
  },
  fit: [],
});

/** What the company goes by where a price is kept in one currency alone. */
const rates = [
  { from: 'GBP', to: 'SEK', is: { rate: '12.64', source: 'our bank, middle rate', day: '2026-11-20' }, was: null },
  { from: 'GBP', to: 'EUR', is: { rate: '1.162', source: 'our bank, middle rate', day: '2026-11-20' }, was: null },
];

/** What is told in a language. */
const toldIn = (language: string): Condition => ({ not: { attribute: 'title', language, op: 'isEmpty' } });

/** Further markets of the channel that stands from the beginning: the same fills, with prices in their currency. */
const furtherMarkets = [
  { market: 'IE', place: 'Orrivane, Ireland', condition: toldIn('en-GB') },
  { market: 'DE', place: 'Orrivane, Germany', condition: toldIn('de-DE') },
];

/** Goods that go by carrier: on Quernby they take longer to send. */
const bulky = {
  name: 'By carrier',
  condition: { attribute: 'weight', op: 'atLeast', value: '5 kg' } satisfies Condition,
  fills: { 'days-to-send': fixed('5') },
};

interface DemoChannel {
  key: string;
  market: string;
  place: string;
  condition: Condition;
  fills: Record<string, Fill>;
  preset?: { name: string; condition: Condition; fills: Record<string, Fill> };
}

/** What has shown itself there: goods with a title in the language of the market. */
const everything: Condition = { all: [] };

export const channels: readonly DemoChannel[] = [
  {
    key: 'quernby',
    market: 'GB',
    place: 'Quernby, Great Britain',
    condition: everything,
    preset: bulky,
    fills: {
      ref: copy('sku'),
      heading: plain('title'),
      account: {
        rule: { kind: 'copy', from: 'description' },
        fit: [{ do: 'keep-tags', tags: ['p', 'b', 'ul', 'li', 'br'] }],
      },
      make: copy('brand'),
      'maker-ref': copy('mpn'),
      gtin: copy('gtin'),
      asks: copy('asking'),
      struck: copy('askedBefore'),
      pieces: copy('stock'),
      'days-to-send': fixed('2'),
      'state-of-it': fixed('factory fresh'),
      front: copy('mainPicture'),
      sides: copy('morePictures'),
      group: copy('familyId'),
      'axis-shade': translated('colour', {
        Moss: 'green',
        Chalk: 'white',
        Slate: 'grey',
        White: 'white',
        Soot: 'black',
        Black: 'black',
        Rust: 'brown',
        Terracotta: 'orange',
        Ink: 'blue',
      }),
      'axis-size': first('size', 'packet', 'height'),
      'axis-span': first('diameter', 'length'),
      'axis-holds': copy('volume'),
      'axis-light': copy('colourTemperature'),
      weighs: copy('weight'),
      watts: copy('power'),
      kelvin: copy('colourTemperature'),
      across: copy('diameter'),
      holds: copy('volume'),
      botanic: copy('botanicalName'),
      sow: copy('sowingMonths'),
      wears: copy('size'),
    },
  },
  {
    key: 'tansel',
    market: 'GB',
    place: 'Tansel, Great Britain',
    condition: everything,
    fills: {
      tag: copy('sku'),
      headline: plain('title'),
      story: plain('description'),
      worth: copy('asking'),
      'worth-before': copy('askedBefore'),
      there: {
        rule: {
          kind: 'when',
          cases: [{ if: { attribute: 'stock', op: 'atLeast', value: '1' }, then: { kind: 'fixed', value: 'here' } }],
          otherwise: { kind: 'fixed', value: 'gone' },
        },
        fit: [],
      },
      lens: copy('mainPicture'),
      'more-lenses': copy('morePictures'),
      'made-by': copy('brand'),
      barcode: copy('gtin'),
      'leads-to': copy('page'),
      set: copy('familyId'),
      'in-cut': first('size', 'diameter', 'length', 'volume', 'packet'),
    },
  },
  {
    key: 'windowsill',
    market: 'GB',
    place: 'Windowsill, Great Britain',
    condition: everything,
    fills: {
      mark: copy('sku'),
      called: plain('title'),
      told: {
        rule: { kind: 'copy', from: 'description' },
        fit: [{ do: 'keep-tags', tags: ['p', 'b', 'i', 'ul', 'ol', 'li', 'br', 'h3', 'a'] }],
      },
      costs: copy('asking'),
      'cost-before': copy('askedBefore'),
      left: copy('stock'),
      seen: copy('mainPicture'),
      'seen-too': copy('morePictures'),
      together: copy('familyId'),
      'choice-of-shade': copy('colour'),
      'choice-of-size': first('size', 'diameter', 'length', 'volume', 'packet'),
      'choice-of-kind': first('colourTemperature', 'plug'),
      'made-by': copy('brand'),
      heavy: copy('weight'),
      code: copy('gtin'),
    },
  },
  {
    key: 'skarvelund',
    market: 'SE',
    place: 'Skarvelund Torg, Sverige',
    condition: toldIn('sv-SE'),
    fills: {
      artikel: copy('sku'),
      rubrik: plain('title'),
      text: plain('description'),
      pris: priced('asking'),
      ordinarie: priced('askedBefore'),
      antal: copy('stock'),
      leveransklass: fixed('2–3 dagar'),
      streckkod: copy('gtin'),
      bild: copy('mainPicture'),
      bilder: copy('morePictures'),
      serie: copy('familyId'),
      storlek: first('size', 'diameter', 'length', 'volume', 'packet'),
      handgjord: copy('handmade'),
    },
  },
];

/** `standins`: the address of the simulated channels. */
export async function addChannels(services: Services, user: User, standins: string): Promise<void> {
  for (const rate of rates) await setRate(services, user, rate);
  for (const { key, market, place, condition, fills, preset } of channels) {
    const id = await addChannel(services, user, { shipped: key });
    const account = await queryOne<{ id: number }>(
      services.db,
      sql`SELECT id FROM account WHERE channel_id = ${id} ORDER BY id LIMIT 1`,
    );
    await changeAccount(services, user, account?.id ?? 0, {
      to: { address: `${standins}/${key}` },
      was: { address: '' },
    });
    const made = await addPlace(services, user, id, { market, name: place, condition });
    await saveFills(services, user, made.id, {
      fills: Object.entries(fills).map(([attribute, fill]) => ({ ...everywhere(attribute), fill })),
      over: false,
    });
    if (preset) await addPreset(services, user, made.id, preset);
    // What is sure is taken, as one click would; the rest waits for a person.
    const sure = Object.entries(await suggest(services.db, made.id)).flatMap(([category, [best]]) =>
      best?.isSure ? [{ category, target: best.path }] : [],
    );
    if (sure.length > 0) await saveCategories(services, user, made.id, sure);
  }
  await addMarkets(services, user);
}

async function addMarkets(services: Services, user: User): Promise<void> {
  const orrivane = await queryOne<{ id: number }>(services.db, sql`SELECT id FROM channel WHERE key = 'orrivane'`);
  for (const { market, place, condition } of furtherMarkets) {
    const made = await addPlace(services, user, orrivane?.id ?? 0, { market, name: place, condition });
    const prices = { asks: 'asking', askedBefore: 'askedBefore' };
    const fills = Object.entries(prices).map(([attribute, from]) => ({
      ...everywhere(attribute),
      ...{ market, fill: priced(from) },
    }));
    await saveFills(services, user, made.id, { fills, over: false });
  }
}

async function addPreset(
  services: Services,
  user: User,
  placeId: number,
  { name, condition, fills }: NonNullable<DemoChannel['preset']>,
): Promise<void> {
  await savePresets(services, user, placeId, { to: [{ id: null, name, condition, hand: [] }], was: [] });
  const [made] = await describePresets(services.db, placeId);
  await saveFills(services, user, placeId, {
    fills: Object.entries(fills).map(([attribute, fill]) => ({
      ...everywhere(attribute),
      ...{ preset: made?.id ?? null, fill },
    })),
    over: false,
  });
}
