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
