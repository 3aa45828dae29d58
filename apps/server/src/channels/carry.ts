/** Fills kept in a file, and carried from another place or such a file to this one: each shown beside what there is. */
import { type CarriedFill, fillsFileSchema } from '@velvet-shelf/contract';
import { type Fill, carryFill } from '@velvet-shelf/core/fills';
import { alikeAttributes, sourcesFor } from '@velvet-shelf/core/listings';
import { type Rulebook, namesOf } from '@velvet-shelf/core/rulebooks';
import { canonical } from '@velvet-shelf/core/values';
import { loadDictionary } from '../dictionary/dictionary.js';
import { badRequest } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { getPlace, rulebookOf } from './places.js';
import { type FillSlot, asPlaced, generalFillsAt, slotKey } from './slots.js';

type Placed = FillSlot & { fill: Fill };

export async function fillsFile({ db }: Services, placeId: number) {
  const place = await getPlace(db, placeId);
  const labels = new Map((await rulebookOf(db, place)).attributes.map(({ key, label }) => [key, label]));
  return {
    format: 'velvet-shelf fills' as const,
    version: 1 as const,
    channel: place.channelName,
    market: place.market,
    fills: (await generalFillsAt(db, place)).map((held) => ({ ...held, label: labels.get(held.attribute) ?? '' })),
  };
}

interface Brought {
  of: string;
  market: string;
  rulebook: Pick<Rulebook, 'attributes' | 'exchange'>;
  fills: Placed[];
}

/** What fills of elsewhere would be at a place; nothing is written. */
export async function carryFills(
  services: Services,
  placeId: number,
  from: { place: number } | { file: unknown },
): Promise<{ of: string; items: CarriedFill[]; unfit: { label: string; why: string }[] }> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const { attributes } = await loadDictionary(db);
  const brought = 'place' in from ? await ofPlace(services, from.place) : ofFile(from.file, rulebook);
  const held = await generalFillsAt(db, place);
  const alike = alikeAttributes(
    { rulebook: { ...rulebook, ...brought.rulebook }, fills: brought.fills.map(asPlaced) },
    { rulebook, fills: held.map(asPlaced) },
    attributes,
  );
  const labels = new Map(brought.rulebook.attributes.map(({ key, label }) => [key, label]));
  const now = new Map(held.map((each) => [slotKey(each), each.fill]));
  const known = new Set(rulebook.categories.map(({ path }) => path));
  const names = namesOf(rulebook);
  const items: CarriedFill[] = [];
  const unfit: { label: string; why: string }[] = [];
  for (const one of brought.fills) {
    const attribute = alike.get(one.attribute);
    const label = labels.get(one.attribute) ?? one.attribute;
    if (!attribute) {
      unfit.push({ label, why: `${place.channelName} asks for nothing like it` });
      continue;
    }
    if (one.category !== '' && !known.has(one.category)) {
      unfit.push({ label, why: `it is for “${one.category}”, which ${place.channelName} does not have` });
      continue;
    }
    const sources = sourcesFor(attribute, attributes);
    const { fill, notes } = carryFill(one.fill, attribute, new Set(sources.map(({ name }) => name)));
    if (!fill) {
      unfit.push({ label, why: `${attribute.label} of ${place.channelName} takes nothing of it` });
      continue;
    }
    const slot = {
      attribute: attribute.key,
      market: one.market === '' ? '' : place.market,
      category: one.category,
      preset: null,
    };
    const there = now.get(slotKey(slot)) ?? null;
    items.push({
      ...slot,
      label: attribute.label,
      names: slot.category === '' ? [] : names(slot.category),
      fill,
      now: there,
      is: there === null ? 'new' : canonical(there) === canonical(fill) ? 'same' : 'other',
      notes: [...(label === attribute.label ? [] : [`from ${label}`]), ...notes],
      sources,
    });
  }
  return { of: brought.of, items, unfit };
}

async function ofPlace({ db }: Services, placeId: number): Promise<Brought> {
  const place = await getPlace(db, placeId);
  return {
    of: place.name,
    market: place.market,
    rulebook: await rulebookOf(db, place),
    fills: await generalFillsAt(db, place),
  };
}

/** A file says no types: its attributes are taken for what those of the same key or label are here. */
function ofFile(file: unknown, { attributes, exchange }: Rulebook): Brought {
  const read = fillsFileSchema.safeParse(file);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw badRequest(
      `This is no file of fills: ${issue?.path.join('/') || 'at the top'}: ${issue?.message ?? 'it cannot be read'}`,
    );
  }
  const { channel, market, fills } = read.data;
  const told = new Map(fills.map(({ attribute, label }) => [attribute, label || attribute]));
  const known = [...told].flatMap(([key, label]) => {
    const same = attributes.find((each) => each.key === key) ?? attributes.find((each) => each.label === label);
    return same ? [{ ...same, key, label }] : [];
  });
  const unknown = [...told].flatMap(([key, label]) =>
    known.some((each) => each.key === key)
      ? []
      : [{ key, label, type: 'text' as const, need: 'optional' as const, limits: {} }],
  );
  return {
    ...{ of: channel, market, rulebook: { attributes: [...known, ...unknown], exchange } },
    fills: fills.map((fill) => ({ ...fill, preset: null })),
  };
}
