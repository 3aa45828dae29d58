/** GTINs: made comparable as fourteen digits; check digit per GS1 General Specifications, section 7.9. */

export type GtinFault = 'not-digits' | 'length' | 'check-digit' | 'digits-lost';

export type ReadGtin =
  { ok: true; gtin14: string; written: string; note?: string } | { ok: false; fault: GtinFault; reason: string };

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

/** Lengths a spreadsheet leaves when it drops one leading zero. */
const lostZero = new Set([7, 11]);

/**
 * Reads a GTIN as a supplier wrote it. Spaces and hyphens go; one lost leading zero is put back where the check digit
 * proves it; scientific notation is recovered where all digits are still there, else refused.
 */
export function readGtin(raw: string): ReadGtin {
  const text = raw.trim().replace(/[\s\u00a0-]+/g, '');
  const science = /^(\d)(?:[.,](\d+))?e\+?(\d+)$/i.exec(text);
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
  if (lostZero.has(text.length)) {
    const whole = `0${text}`;
    if (isGtin(whole))
      return { ok: true, gtin14: whole.padStart(14, '0'), written: whole, note: 'put back the leading zero' };
  }
  if (![8, 12, 13, 14].includes(text.length))
    return { ok: false, fault: 'length', reason: `“${raw}” has ${text.length} digits; a GTIN has 8, 12, 13 or 14` };
  if (!isGtin(text))
    return {
      ok: false,
      fault: 'check-digit',
      reason: `“${raw}” has a wrong check digit: it ends in ${text.at(-1)}, the others give ${checkDigit(text.slice(0, -1))}`,
    };
  return { ok: true, gtin14: text.padStart(14, '0'), written: text };
}
