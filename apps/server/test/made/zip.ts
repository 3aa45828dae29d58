/** Archives by hand, so that they can be what no writer makes (APPNOTE 6.3.9, only what readers need). */
import { crc32, deflateRawSync } from 'node:zlib';

export interface Part {
  name: string;
  content: string | Uint8Array;
}

export function zip(parts: readonly Part[]): Uint8Array {
  const locals: Buffer[] = [];
  const centrals: Buffer[] = [];
  let offset = 0;
  for (const { name, content } of parts) {
    const bytes = Buffer.from(content as string);
    const packed = deflateRawSync(bytes);
    const called = Buffer.from(name);
    const head = Buffer.alloc(26);
    head.writeUInt16LE(20, 0);
    head.writeUInt16LE(8, 4);
    head.writeUInt32LE(crc32(bytes), 10);
    head.writeUInt32LE(packed.length, 14);
    head.writeUInt32LE(bytes.length, 18);
    head.writeUInt16LE(called.length, 22);
    const local = Buffer.concat([Buffer.from('PK\x03\x04'), head, called, packed]);
    const tail = Buffer.alloc(14);
    tail.writeUInt32LE(offset, 10);
    const made = Buffer.alloc(2);
    centrals.push(Buffer.concat([Buffer.from('PK\x01\x02'), made, head, tail, called]));
    locals.push(local);
    offset += local.length;
  }
  const central = Buffer.concat(centrals);
  const end = Buffer.alloc(18);
  end.writeUInt16LE(parts.length, 4);
  end.writeUInt16LE(parts.length, 6);
  end.writeUInt32LE(central.length, 8);
  end.writeUInt32LE(offset, 12);
  return Buffer.concat([...locals, central, Buffer.from('PK\x05\x06'), end]);
}

/** A workbook of one sheet with this XML in it. */
export const workbook = (sheetData: string): Uint8Array =>
  zip([
    {
      name: 'xl/workbook.xml',
      content: '<workbook xmlns:r="r"><sheets><sheet name="Goods" sheetId="1" r:id="rId1"/></sheets></workbook>',
    },
    {
      name: 'xl/_rels/workbook.xml.rels',
      content: '<Relationships><Relationship Id="rId1" Target="worksheets/sheet1.xml"/></Relationships>',
    },
    { name: 'xl/worksheets/sheet1.xml', content: `<worksheet><sheetData>${sheetData}</sheetData></worksheet>` },
  ]);

export const cell = (reference: string, text: string) =>
  `<c r="${reference}" t="inlineStr"><is><t>${text}</t></is></c>`;
