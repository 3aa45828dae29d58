/** GTINs: made comparable as fourteen digits; check digit per GS1 General Specifications, section 7.9. */

export type GtinFault = 'not-digits' | 'length' | 'check-digit' | 'digits-lost' | 'placeholder' | 'no-trade-item';

export type ReadGtin =
  | {
      ok: true;
      gtin14: string;
      written: string;
      note?: string;
      /**
       * What the number's range is for, where everybody gives these numbers out for himself, or for examples: two sources that
       * have the same one need not mean the same goods.
       */
      internal?: string;
    }
  | { ok: false; fault: GtinFault; reason: string };

/** The check digit for the digits before it, weighted 3, 1, 3 … from the right. */
export function checkDigit(body: string): number {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum += (body.charCodeAt(body.length - 1 - i) - 48) * (i % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10;
}

/** True for 8, 12, 13 or 14 digits whose last is the check digit of the others. */
export function isGtin(digits: string): boolean {
  return /^(\d{8}|\d{12,14})$/.test(digits) && checkDigit(digits.slice(0, -1)) === Number(digits.at(-1));
}

/** What the first three digits of a GTIN-13 stand for, where that is no company of the trade (GS1 General Specifications, 1.4.3). */
const ranges: { from: number; to: number; use: 'internal' | 'none'; words: string }[] = [
  { from: 20, to: 29, use: 'internal', words: 'a number for use inside a region or company' },
  { from: 40, to: 49, use: 'internal', words: 'a number for use inside a company' },
  { from: 50, to: 59, use: 'none', words: 'the number of a coupon' },
  { from: 200, to: 299, use: 'internal', words: 'a number for use inside a region or company' },
  { from: 952, to: 952, use: 'internal', words: 'a number kept for examples' },
  { from: 980, to: 980, use: 'none', words: 'the number of a refund receipt' },
  { from: 981, to: 984, use: 'none', words: 'the number of a coupon' },
  { from: 985, to: 989, use: 'none', words: 'kept for coupons' },
  { from: 990, to: 999, use: 'none', words: 'the number of a coupon' },
];
/** Those of a GTIN-8, whose prefixes are a series of their own (same section). */
const shortRanges: typeof ranges = [
  { from: 0, to: 99, use: 'internal', words: 'a number for use inside a company' },
  { from: 200, to: 299, use: 'internal', words: 'a number for use inside a company' },
  { from: 977, to: 999, use: 'none', words: 'kept, and on no goods' },
];

function rangeOf(digits: string): (typeof ranges)[number] | undefined {
  // A GTIN-14 names the GTIN-13 of what is packed after its first digit.
  const long = digits.length === 14 ? digits.slice(1) : digits.padStart(13, '0');
  const [list, head] = /^0{5}/.test(long)
    ? [shortRanges, Number(long.slice(5, 8))]
    : [ranges, Number(long.slice(0, 3))];
  return list.find(({ from, to }) => head >= from && head <= to);
}

/** Lengths a spreadsheet leaves when it drops one leading zero. */
const lostZero = new Set([7, 11]);

/**
 * Reads a GTIN as a supplier wrote it. Spaces and hyphens go, and decimals that a spreadsheet added; one lost leading zero is
 * put back where the check digit proves it; scientific notation is recovered where all digits are still there, else refused.
 * Numbers that stand for nothing, or for what is no trade item, are refused.
 */
export function readGtin(raw: string): ReadGtin {
  const bare = raw
    .trim()
    .replace(/^'/, '')
    .replace(/[\s\u00a0-]+/g, '');
  const text = bare.replace(/^(\d{7,14})[.,]0{1,6}$/, '$1');
  const science = /^(\d)(?:[.,](\d+))?e\+?(\d{1,2})$/i.exec(text);
  if (science) {
    const digits = science[1] + (science[2] ?? '');
    const length = Number(science[3]) + 1;
    const restored = digits.padEnd(length, '0');
    if (digits.length < length && !(digits.length >= length - 1 && isGtin(restored)))
      return {
        ok: false,
        fault: 'digits-lost',
        reason: `“${raw}” is a GTIN whose last digits a spreadsheet has dropped; ask for the file with the column as text`,
      };
    return readGtin(restored);
  }
  if (!/^\d+$/.test(text))
    return { ok: false, fault: 'not-digits', reason: `“${raw}” is not a GTIN: only digits are allowed` };
  if (/^(\d)\1+$/.test(text))
    return { ok: false, fault: 'placeholder', reason: `“${raw}” stands for a number that is not known: it is no GTIN` };
  const whole = lostZero.has(text.length) && isGtin(`0${text}`) ? `0${text}` : text;
  if (![8, 12, 13, 14].includes(whole.length))
    return { ok: false, fault: 'length', reason: `“${raw}” has ${text.length} digits; a GTIN has 8, 12, 13 or 14` };
  if (!isGtin(whole))
    return {
      ok: false,
      fault: 'check-digit',
      reason: `“${raw}” has a wrong check digit: it ends in ${text.at(-1)}, the others give ${checkDigit(text.slice(0, -1))}`,
    };
  const range = rangeOf(whole);
  if (range?.use === 'none')
    return { ok: false, fault: 'no-trade-item', reason: `“${raw}” is ${range.words}, and no trade item` };
  const notes = [
    ...(whole === text ? [] : ['put back the leading zero']),
    ...(text === bare ? [] : ['took off the decimals']),
  ];
  return {
    ok: true,
    gtin14: whole.padStart(14, '0'),
    written: whole,
    ...(range ? { internal: `${range.words}: others may use it for other goods` } : {}),
    ...(notes.length > 0 ? { note: notes.join('; ') } : {}),
  };
}
