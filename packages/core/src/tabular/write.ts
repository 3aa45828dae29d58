/** One cell of a CSV file (RFC 4180): quoted only where it must be. */
export function csvCell(text: string): string {
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/**
 * One cell of a TSV file for machines (IANA text/tab-separated-values): tabs and line breaks become spaces,
 * because the format has no way to keep them.
 */
export function tsvCell(text: string): string {
  return /[\t\r\n]/.test(text) ? text.replace(/[\t\r\n]+/g, ' ') : text;
}

const formula = /^'*[=+\-@\t\r]/;
const plainFigure = /^[+-]?\d+([.,]\d+)?$/;

/**
 * A text that a spreadsheet would take for a formula gets an apostrophe before it (OWASP: CSV injection); figures stay
 * figures. One that has apostrophes before such a sign already gets one more, so that `spreadsheetPlain` gives it back.
 */
export function spreadsheetSafe(text: string): string {
  return formula.test(text) && !plainFigure.test(text) ? `'${text}` : text;
}

/** Takes back what `spreadsheetSafe` did. */
export function spreadsheetPlain(cell: string): string {
  return cell.startsWith("'") && formula.test(cell) ? cell.slice(1) : cell;
}
