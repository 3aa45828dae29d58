/** The channel's own XML: a document of items, an item of blocks. */
import { type Block, compileBlocks } from './blocks.js';
import { type WrittenFormat, xmlMark, xmlText } from './model.js';

const marks = (list: Block['marks']) => list.map(([name, text]) => ` ${name}="${xmlMark(text)}"`).join('');

export const xml: WrittenFormat = {
  label: 'XML',
  extension: 'xml',
  contentType: 'application/xml; charset=utf-8',
  compile(rulebook, meta) {
    const read = compileBlocks(rulebook, meta);
    const { root = 'items', namespace = '', item: name = 'item' } = rulebook.exchange.document ?? {};
    return {
      head: `<?xml version="1.0" encoding="UTF-8"?>\n<${root} xmlns="${xmlMark(namespace)}">\n`,
      item: (values) => {
        let text = `<${name}>`;
        for (const block of read(values)) {
          text += `<${block.name}${marks(block.marks)}>`;
          if (block.own !== undefined) text += xmlText(block.own);
          for (const piece of block.pieces)
            text += `<${piece.name}${marks(piece.marks)}>${xmlText(piece.text)}</${piece.name}>`;
          text += `</${block.name}>`;
        }
        return `${text}</${name}>\n`;
      },
      foot: `</${root}>\n`,
    };
  },
};
