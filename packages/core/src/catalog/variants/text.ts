/** Texts as a shop puts them: figures in them by their amount, the rest by the language. */
import { fractionSign } from '../../values/index.js';
import type { Reading } from './model.js';
import { readNumber } from './numbers.js';

const dashes = /[\p{Pd}\u2212\u00ad]/gu;

/**
 * A text as spellings of it are compared: without regard to case, spaces, hyphens and Unicode form. Accents count: “rosé” is
 * not “rose”. Between figures a gap stays one: “1 2” is not “12”; and a minus stays one.
 */
export function foldSpelling(text: string): string {
  return (
    text
      .normalize('NFKC')
      // Capitals first: ß and ſ have them, and are small letters of the same.
      .toUpperCase()
      .toLowerCase()
      .replace(dashes, '-')
      .replace(/[\u200b-\u200d\u2060\ufeff]/gu, '')
      .replace(/(?<=\p{N})[\s-]+(?=\p{N})/gu, '\u0001')
      .replace(/(?<!\S)-(?=[\d.,])/gu, '\u0002')
      .replace(/[\s-]+/gu, '')
      .replaceAll('\u0001', ' ')
      .replaceAll('\u0002', '-')
      .trim()
  );
}

const collators = new Map<string, Intl.Collator>();

/** The collator of a language; of a plain order where the tag is none. */
export function collatorOf(language: string | undefined): Intl.Collator {
  const tag = language ?? 'en';
  let collator = collators.get(tag);
  if (!collator) {
    const options = { sensitivity: 'accent', ignorePunctuation: false } as const;
    try {
      collator = new Intl.Collator(tag, options);
    } catch {
      collator = new Intl.Collator('en', options);
    }
    collators.set(tag, collator);
  }
  return collator;
}

const figures = new RegExp(String.raw`\d+(?:[.,]\d+)?(?:\s+\d+[/⁄]\d+|[/⁄]\d+)?|\d*${fractionSign}`, 'gu');

/** −, 0 or + as a shop would put one before the other. */
export function compareText(a: string, b: string, collator: Intl.Collator, reading: Reading): number {
  const [left, right] = [partsOf(a, reading), partsOf(b, reading)];
  for (let i = 0; i < Math.max(left.length, right.length); i++) {
    const [one, other] = [left[i], right[i]];
    if (one === undefined || other === undefined) return one === undefined ? -1 : 1;
    const order =
      typeof one === 'number' && typeof other === 'number'
        ? one - other
        : typeof one === 'string' && typeof other === 'string'
          ? collator.compare(one, other)
          : typeof one === 'number'
            ? -1
            : 1;
    if (order !== 0) return order;
  }
  return 0;
}

function partsOf(text: string, reading: Reading): (string | number)[] {
  const parts: (string | number)[] = [];
  let from = 0;
  const put = (between: string) => {
    const words = between.replace(/\s+/gu, ' ').trim();
    if (words !== '') parts.push(words);
  };
  for (const found of text.matchAll(figures)) {
    const amount = readNumber(found[0], reading);
    if (amount === undefined) continue;
    put(text.slice(from, found.index));
    parts.push(amount);
    from = found.index + found[0].length;
  }
  put(text.slice(from));
  return parts;
}
