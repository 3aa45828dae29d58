/** Cells as spreadsheets hand them over: lines of texts with tabs between, quoted where a text holds a tab, a line end or a quote. */

/** Cells of what was copied, row by row; a line end at its end makes no row. */
export function readCells(text: string): string[][] {
  const rows: string[][] = [];
  let [row, cell, quoted, at]: [string[], string, boolean, number] = [[], '', false, 0];
  const endCell = () => {
    row.push(cell);
    cell = '';
  };
  const endRow = () => {
    endCell();
    rows.push(row);
    row = [];
  };
  for (; at < text.length; at++) {
    const sign = text[at] ?? '';
    if (quoted) {
      if (sign !== '"') cell += sign;
      else if (text[at + 1] === '"') cell += text[at++];
      else quoted = false;
    } else if (sign === '"' && cell === '' && closes(text, at)) quoted = true;
    else if (sign === '\t') endCell();
    else if (sign === '\n' || sign === '\r') {
      endRow();
      if (sign === '\r' && text[at + 1] === '\n') at++;
    } else cell += sign;
  }
  if (cell !== '' || row.length > 0) endRow();
  return rows;
}

/** Whether a quote that begins a cell is closed at a cell’s end: `19" wide` and a lone `"` are no quoted texts. */
function closes(text: string, from: number): boolean {
  for (let at = text.indexOf('"', from + 1); at >= 0; at = text.indexOf('"', at + 1)) {
    const next = text[at + 1];
    if (next === '"') at++;
    else return next === undefined || next === '\t' || next === '\n' || next === '\r';
  }
  return false;
}

export const writeCells = (rows: readonly (readonly string[])[]): string =>
  rows
    .map((row) => row.map((cell) => (/[\t\n\r"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join('\t'))
    .join('\n');
