import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type SheetLayout,
  plainNumber,
  readDateStyles,
  readSharedStrings,
  readWorkbook,
  serialDate,
  sheetRows,
  spreadsheetPlain,
  spreadsheetSafe,
} from './index.js';

async function* pieces(text: string): AsyncGenerator<string> {
  for (let at = 0; at < text.length; at += 41) yield text.slice(at, at + 41);
}

describe('a workbook', () => {
  it('lists its sheets in order, hidden ones marked', () => {
    const { sheets } = readWorkbook(
      '<workbook xmlns:r="x"><sheets><sheet name="Lamps" r:id="r2"/><sheet name="Old &amp; gone" state="hidden" r:id="r1"/></sheets></workbook>',
      '<Relationships><Relationship Id="r1" Target="worksheets/a.xml"/><Relationship Id="r2" Target="/xl/worksheets/b.xml"/></Relationships>',
    );
    expect(sheets).toEqual([
      { name: 'Lamps', path: 'xl/worksheets/b.xml', hidden: false },
      { name: 'Old & gone', path: 'xl/worksheets/a.xml', hidden: true },
    ]);
  });
  it('puts the runs of a rich text together', async () => {
    const xml =
      '<sst><si><t>Art.</t></si><si><r><t>Ho</t></r><r><t xml:space="preserve">llin </t></r><rPh><t>x</t></rPh></si></sst>';
    expect(await readSharedStrings(pieces(xml))).toEqual(['Art.', 'Hollin ']);
  });
  it('gives numbers all their digits, dates as dates, and notes merged ranges and hidden columns', async () => {
    const styles = readDateStyles(
      '<styleSheet><numFmts><numFmt numFmtId="164" formatCode="dd/mm/yyyy"/><numFmt numFmtId="165" formatCode="0.00 &quot;m&quot;"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="164"/><xf numFmtId="165"/></cellXfs></styleSheet>',
    );
    expect(styles).toEqual([false, true, false]);
    const layout: SheetLayout = { merged: [], hiddenColumns: new Set() };
    const xml = `<worksheet><cols><col min="2" max="3" hidden="1"/></cols><sheetData>
      <row r="3"><c r="A3" t="s"><v>0</v></c><c r="C3"><v>2.104000004131E12</v></c><c r="D3" s="1"><v>46113</v></c><c r="E3" s="2"><v>0.1</v></c><c r="F3" t="b"><v>1</v></c></row>
      <row r="4"/><row r="5"><c r="B5" t="inlineStr"><is><t>note</t></is></c></row></sheetData>
      <mergeCells><mergeCell ref="A3:A9"/></mergeCells></worksheet>`;
    const rows = [];
    for await (const row of sheetRows(pieces(xml), { strings: ['Pot'], dateStyles: styles, date1904: false }, layout))
      rows.push(row);
    expect(rows.map((row) => [row.row, row.cells])).toEqual([
      [3, ['Pot', '', '2104000004131', '2026-04-01', '0.1', 'yes']],
      [5, ['', 'note']],
    ]);
    expect([...(rows[0]?.numeric ?? [])]).toEqual([2, 4]);
    expect(layout).toEqual({ merged: [{ left: 0, right: 0, top: 3, bottom: 9 }], hiddenColumns: new Set([1, 2]) });
  });
  it('knows that workbooks count a leap day that never was', () => {
    expect(serialDate(59, false)).toBe('1900-02-28');
    expect(serialDate(61, false)).toBe('1900-03-01');
    expect(serialDate(0, true)).toBe('1904-01-01');
    expect(serialDate(45658.5, false)).toBe('2025-01-01T12:00:00');
  });
  it('writes a stored double as it was typed', () => {
    expect(plainNumber('0.30000000000000004')).toBe('0.3');
    expect(plainNumber('18.440000000000001')).toBe('18.44');
    expect(plainNumber('4120000000127')).toBe('4120000000127');
  });
});

describe('cells a spreadsheet would run', () => {
  it('are made text, figures left alone', () => {
    expect(spreadsheetSafe('=1+2')).toBe("'=1+2");
    expect(spreadsheetSafe('@cmd')).toBe("'@cmd");
    expect(spreadsheetSafe('-4')).toBe('-4');
    expect(spreadsheetSafe('+12,5')).toBe('+12,5');
    expect(spreadsheetSafe("it's")).toBe("it's");
  });
  it('come back as they were, whatever they were', () => {
    const text = fc.oneof(fc.string(), fc.stringMatching(/^'{0,3}[=+\-@\t][ -~]{0,8}$/));
    fc.assert(fc.property(text, (text) => spreadsheetPlain(spreadsheetSafe(text)) === text));
  });
});
