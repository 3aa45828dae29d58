import { describe, expect, it } from 'vitest';
import { detectEncoding, detectLayout, refuseNonText, tsvCell, csvCell, parseRows } from './index.js';

const bytes = (text: string) => new TextEncoder().encode(text);

describe('encoding', () => {
  it('takes valid UTF-8 as UTF-8, even when the sample cuts a character in two', () => {
    expect(detectEncoding(bytes('Übertopf Öl €')).value).toBe('utf-8');
    expect(detectEncoding(bytes('Öl €').slice(0, -1)).value).toBe('utf-8');
  });
  it('takes what is not UTF-8 as Windows-1252 and says at which byte', () => {
    const found = detectEncoding(Uint8Array.of(0x48, 0xf6, 0x68, 0x65, 0x80));
    expect(found.value).toBe('windows-1252');
    expect(found.why).toContain('0xF6 at position 2');
  });
});

describe('layout', () => {
  it('finds separator, header below a title row, and decimal commas', () => {
    const text = 'Preisliste;;;\nNr;Name;Preis;Höhe\n1;"Topf; rund";3,20;9,5\n2;Topf;4,10;10,0\n3;Topf;5,00;11,0\n';
    const found = detectLayout(text);
    expect(found.delimiter.value).toBe(';');
    expect(found.headerRow.value).toBe(2);
    expect(found.decimal.value).toBe(',');
  });
  it('keeps an inch mark inside an unquoted cell as it is', () => {
    expect(parseRows('a\tPot 5" wide\tc\n', '\t')[0]).toEqual(['a', 'Pot 5" wide', 'c']);
  });
});

describe('what is no table of text', () => {
  it.each([
    ['an empty file', new Uint8Array(), 'empty'],
    ['an old workbook named .csv', Uint8Array.of(0xd0, 0xcf, 0x11, 0xe0, 1), 'XLSX'],
    ['a PNG', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d), 'PNG'],
    ['other bytes', Uint8Array.of(65, 0, 66), 'binary'],
  ])('is refused: %s', (_name, sample, word) => {
    const answer = refuseNonText(sample);
    expect(answer.ok).toBe(false);
    expect(answer.ok ? '' : answer.reason).toContain(word);
  });
});

it('writes cells that come back', () => {
  expect(csvCell('a "b", c')).toBe('"a ""b"", c"');
  expect(tsvCell('a\tb\nc')).toBe('a b c');
});
