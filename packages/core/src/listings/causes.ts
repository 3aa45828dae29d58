/** Cause keys: what one would change to make a finding disappear. Text, stable, the same for every finding it explains. */
import { checkMeta } from '../checks/index.js';
import type { Link } from '../fills/index.js';
import type { PlaceSetup, PlacedFill } from './place.js';

/** Which fill of the attribute one would change, where that is not the one for all goods. */
interface AtSlot {
  slot?: string;
}

/** A fill's slot as causes name it: the channel's category, marked where it is for the market alone, behind the preset's number. */
export const slotName = ({
  category = '',
  market,
  preset,
}: Pick<PlacedFill, 'category' | 'market' | 'preset'>): string =>
  `${preset === undefined ? '' : `#${preset}#`}${market === undefined ? '' : ownMark}${category}`;
const ownMark = '!';

/** Where the fill of a cause stands. */
export function slotOf({ market, slot = '' }: AtSlot & { market: string }): {
  market: string;
  category: string;
  preset: number | null;
} {
  const preset = /^#(\d+)#/u.exec(slot);
  const rest = slot.slice(preset?.[0].length ?? 0);
  const isOwn = rest.startsWith(ownMark);
  return {
    market: isOwn ? market : '',
    category: isOwn ? rest.slice(ownMark.length) : rest,
    preset: preset ? Number(preset[1]) : null,
  };
}

/** What one would change: with a market where that is of it alone, else `''`, for all markets and accounts of the channel. */
export type Cause =
  | { kind: 'map-category'; channel: string; market: string; category: string }
  /** With `check`, there is a fill, and what it gives does not pass. */
  | ({ kind: 'fill'; channel: string; market: string; attribute: string; check?: string } & AtSlot)
  /** With `of`, the value is one on the list of that attribute of ours, by its key. */
  | ({ kind: 'translate'; channel: string; market: string; attribute: string; value: string; of?: string } & AtSlot)
  | ({ kind: 'fit'; channel: string; market: string; attribute: string; check: string } & AtSlot)
  | { kind: 'catalog'; attribute: string; language?: string; check?: string }
  | { kind: 'report'; channel: string; market: string; code: string }
  /** The place has more goods than the channel takes. */
  | { kind: 'assortment'; channel: string; market: string }
  /** None of the channel's axes has a value that tells variants apart; the attribute is the one that groups them. */
  | { kind: 'axis'; channel: string; market: string; attribute: string }
  /** Values set by hand for single listings. */
  | { kind: 'pin'; channel: string; market: string; attribute: string };

/** A part as it stands between colons. */
const escaped = (part: string) =>
  /[%:@]/.test(part) ? part.replace(/[%:@]/g, encodeURIComponent).replaceAll('@', '%40') : part;
const unescaped = (part: string) => part.replace(/%(?:25|3A|40)/g, decodeURIComponent);

/** Text of a cause; `parseCause` reads it back, whatever its parts hold. Set-up causes carry the channel, catalog causes do not. */
export function causeKey(cause: Cause): string {
  if (cause.kind === 'catalog') {
    const { attribute, language, check } = cause;
    return `catalog:${escaped(attribute)}${language ? `@${escaped(language)}` : ''}${check ? `:${escaped(check)}` : ''}`;
  }
  return [cause.kind, cause.channel, cause.market, ...partsOf(cause)].map(escaped).join(':');
}

function partsOf(cause: Exclude<Cause, { kind: 'catalog' }>): string[] {
  switch (cause.kind) {
    case 'map-category':
      return [cause.category];
    case 'translate':
      return [cause.attribute, cause.value, ...optional(cause.of, cause.slot)];
    case 'fit':
      return [cause.attribute, cause.check, ...optional(cause.slot)];
    case 'fill':
      return [cause.attribute, ...optional(cause.slot, cause.check)];
    case 'axis':
    case 'pin':
      return [cause.attribute];
    case 'report':
      return [cause.code];
    case 'assortment':
      return [];
  }
}

/** Parts that may be absent: those at the end are left out, one before another is empty. */
function optional(...parts: readonly (string | undefined)[]): string[] {
  const last = parts.findLastIndex((part) => part !== undefined);
  return parts.slice(0, last + 1).map((part) => part ?? '');
}

export function parseCause(key: string): Cause | undefined {
  const parts = key.split(':');
  const [kind] = parts;
  if (kind === 'catalog') {
    const [name = '', check] = parts.slice(1);
    const [attribute = '', language] = name.split('@').map(unescaped);
    return { kind, attribute, ...(language ? { language } : {}), ...(check ? { check: unescaped(check) } : {}) };
  }
  const [, channel = '', market = '', first = '', second = '', third, fourth] = parts.map(unescaped);
  const at = (slot: string | undefined) => (slot ? { slot } : {});
  const place = { channel, market };
  switch (kind) {
    case 'map-category':
      return { kind, ...place, category: first };
    case 'translate':
      return { kind, ...place, attribute: first, value: second, ...(third ? { of: third } : {}), ...at(fourth) };
    case 'fit':
      return { kind, ...place, attribute: first, check: second, ...at(third) };
    case 'fill':
      return { kind, ...place, attribute: first, ...at(second), ...(third ? { check: third } : {}) };
    case 'axis':
    case 'pin':
      return { kind, ...place, attribute: first };
    case 'report':
      return { kind, ...place, code: first };
    case 'assortment':
      return { kind, ...place };
    default:
      return undefined;
  }
}

/** The fill that holds, where it is not the one for all goods. */
function inSlot(placed: PlacedFill | undefined): AtSlot {
  const slot = placed ? slotName(placed) : '';
  return slot === '' ? {} : { slot };
}

/** What stands behind a value: the link one would mend, and the fill it is of, where there is one. */
export interface Behind {
  link: Link;
  placed?: PlacedFill | undefined;
}

/** The market that a fill is of alone; what nothing fills yet is filled for all. */
const marketOf = (setup: PlaceSetup, placed: PlacedFill | undefined): string =>
  placed?.market === undefined ? '' : setup.market;

/** The cause of a missing value: the first missing link. */
export function causeOfMissing(setup: PlaceSetup, attribute: string, { link, placed }: Behind): string {
  const { channel } = setup;
  const market = marketOf(setup, placed);
  const at = inSlot(placed);
  if (link.at === 'catalog') return causeKey({ kind: 'catalog', attribute: link.attribute, ...language(link) });
  if (link.at === 'translation')
    return causeKey({ kind: 'translate', channel, market, attribute, ...wordOf(link, ''), ...at });
  return causeKey({ kind: 'fill', channel, market, attribute, ...at });
}

/** The cause of a value that a check does not take: by the check's way of mending, else by what stands behind the value. */
export function causeOfFault(
  setup: PlaceSetup,
  check: string,
  attribute: string,
  { link, placed }: Behind,
  value: string,
): string {
  const { channel } = setup;
  const market = marketOf(setup, placed);
  const at = inSlot(placed);
  // Nothing but the pin itself decides what is sent.
  if (link.at === 'pin') return causeKey({ kind: 'pin', channel, market: setup.market, attribute });
  const fix = checkMeta.get(check)?.fix ?? 'catalog';
  if (fix === 'assortment') return causeKey({ kind: 'assortment', channel, market: setup.market });
  if (fix === 'axis') return causeKey({ kind: 'axis', channel, market: '', attribute });
  if (fix === 'translate')
    return causeKey({ kind: 'translate', channel, market, attribute, ...wordOf(link, value), ...at });
  if (fix === 'fit') return causeKey({ kind: 'fit', channel, market, attribute, check, ...at });
  if (link.at === 'catalog') return causeKey({ kind: 'catalog', attribute: link.attribute, ...language(link), check });
  return causeKey({ kind: 'fill', channel, market, attribute, check, ...at });
}

/** Our word that has none on the channel: by its key where it is on a list. */
function wordOf(link: Link, value: string): { value: string; of?: string } {
  if (link.at === 'translation') return { value: link.value, ...(link.of === undefined ? {} : { of: link.of }) };
  return link.at === 'catalog' && link.listed !== undefined ? { value: link.listed, of: link.attribute } : { value };
}

function language(link: Extract<Link, { at: 'catalog' }>): { language?: string } {
  return link.language === undefined ? {} : { language: link.language };
}
