/** Cause keys: what one would change to make a finding disappear. Text, stable, the same for every finding it explains. */
import { checkMeta } from '../checks/index.js';
import type { Link } from '../fills/index.js';
import type { PlaceSetup } from './place.js';

export type Cause =
  | { kind: 'map-category'; channel: string; market: string; category: string }
  | { kind: 'fill'; channel: string; market: string; attribute: string }
  | { kind: 'translate'; channel: string; market: string; attribute: string; value: string }
  | { kind: 'fit'; channel: string; market: string; attribute: string; check: string }
  | { kind: 'catalog'; attribute: string; language?: string; check?: string }
  | { kind: 'report'; channel: string; market: string; code: string }
  /** None of the channel's axes has a value that tells variants apart; the attribute is the one that groups them. */
  | { kind: 'axis'; channel: string; market: string; attribute: string }
  /** Values set by hand for single listings. */
  | { kind: 'pin'; channel: string; market: string; attribute: string };

/** Text of a cause; `parseCause` reads it back. Set-up causes carry channel and market, catalog causes do not. */
export function causeKey(cause: Cause): string {
  switch (cause.kind) {
    case 'map-category':
      return `map-category:${cause.channel}:${cause.market}:${cause.category}`;
    case 'fill':
      return `fill:${cause.channel}:${cause.market}:${cause.attribute}`;
    case 'translate':
      return `translate:${cause.channel}:${cause.market}:${cause.attribute}=${cause.value}`;
    case 'fit':
      return `fit:${cause.channel}:${cause.market}:${cause.attribute}:${cause.check}`;
    case 'catalog':
      return `catalog:${cause.attribute}${cause.language ? `@${cause.language}` : ''}${cause.check ? `:${cause.check}` : ''}`;
    case 'axis':
      return `axis:${cause.channel}:${cause.market}:${cause.attribute}`;
    case 'pin':
      return `pin:${cause.channel}:${cause.market}:${cause.attribute}`;
    case 'report':
      return `report:${cause.channel}:${cause.market}:${cause.code}`;
  }
}

export function parseCause(key: string): Cause | undefined {
  const [kind, ...rest] = key.split(':');
  const tail = (from: number) => rest.slice(from).join(':');
  const [channel = '', market = '', third = ''] = rest;
  switch (kind) {
    case 'map-category':
      return { kind, channel, market, category: tail(2) };
    case 'fill':
      return { kind, channel, market, attribute: third };
    case 'translate': {
      const pair = tail(2);
      const cut = pair.indexOf('=');
      return { kind, channel, market, attribute: pair.slice(0, cut), value: pair.slice(cut + 1) };
    }
    case 'fit':
      return { kind, channel, market, attribute: third, check: rest[3] ?? '' };
    case 'catalog': {
      const [attribute = '', language] = channel.split('@');
      return { kind, attribute, ...(language ? { language } : {}), ...(market ? { check: market } : {}) };
    }
    case 'axis':
    case 'pin':
      return { kind, channel, market, attribute: tail(2) };
    case 'report':
      return { kind, channel, market, code: tail(2) };
    default:
      return undefined;
  }
}

/** The cause of a missing value: the first missing link. */
export function causeOfMissing(setup: PlaceSetup, attribute: string, link: Link): string {
  const { channel, market } = setup;
  if (link.at === 'catalog') return causeKey({ kind: 'catalog', attribute: link.attribute, ...language(link) });
  if (link.at === 'translation') return causeKey({ kind: 'translate', channel, market, attribute, value: link.value });
  return causeKey({ kind: 'fill', channel, market, attribute });
}

/** The cause of a value that a check does not take: by the check's way of mending, else by what stands behind the value. */
export function causeOfFault(setup: PlaceSetup, check: string, attribute: string, link: Link, value: string): string {
  const { channel, market } = setup;
  // Nothing but the pin itself decides what is sent.
  if (link.at === 'pin') return causeKey({ kind: 'pin', channel, market, attribute });
  const fix = checkMeta.get(check)?.fix ?? 'catalog';
  if (fix === 'axis') return causeKey({ kind: 'axis', channel, market, attribute });
  if (fix === 'translate') {
    const from = link.at === 'translation' ? link.value : value;
    return causeKey({ kind: 'translate', channel, market, attribute, value: from });
  }
  if (fix === 'fit') return causeKey({ kind: 'fit', channel, market, attribute, check });
  if (link.at === 'catalog') return causeKey({ kind: 'catalog', attribute: link.attribute, ...language(link), check });
  return causeKey({ kind: 'fill', channel, market, attribute });
}

function language(link: Extract<Link, { at: 'catalog' }>): { language?: string } {
  return link.language === undefined ? {} : { language: link.language };
}
