import type { Parsed, ReadingStyle, ValueType } from '../model.js';

/** Reads a calendar date into ISO 8601 (YYYY-MM-DD); a year of two digits is one of this century. */
function parseDate(raw: string, style: ReadingStyle): Parsed<string> {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})/.exec(raw);
  const other = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/.exec(raw);
  const parts = iso
    ? [iso[1], iso[2], iso[3]]
    : other
      ? style.dateOrder === 'mdy'
        ? [other[3], other[1], other[2]]
        : [other[3], other[2], other[1]]
      : undefined;
  const [written, month, day] = parts ?? [];
  const year = written?.length === 2 ? `20${written}` : written;
  if (year && month && day && Number(year) >= 1000) {
    const date = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day)));
    if (date.getUTCMonth() === Number(month) - 1 && date.getUTCDate() === Number(day))
      return { ok: true, value: date.toISOString().slice(0, 10) };
  }
  return { ok: false, reason: `“${raw}” is not a date; write 2026-04-30` };
}

export const date: ValueType<string> = {
  parse: parseDate,
  format: (value, { locale }) => new Date(`${value}T00:00:00Z`).toLocaleDateString(locale, { timeZone: 'UTC' }),
  plain: (value) => value,
  sortKey: (value) => value,
};
