/** An item as the columns of a row. */
import { type Rulebook, sayChannelValue } from '../../rulebooks/index.js';
import { type Texts, type WrittenFormat, attributesByKey, textsOf } from './model.js';

export interface Field {
  attribute: string;
  name: string;
  plain?: boolean | undefined;
  /** One text for each value. */
  texts: Texts;
}

const sayAmount: Texts = (value) => [sayChannelValue(value)];

/** Fields in their order; money is written with its currency behind it. */
export function compileFields(rulebook: Rulebook): Field[] {
  const byKey = attributesByKey(rulebook);
  return (rulebook.exchange.rows?.fields ?? []).map((field) => {
    const attribute = byKey.get(field.attribute);
    return { ...field, texts: attribute?.type === 'money' ? sayAmount : textsOf(attribute) };
  });
}

interface Delimited {
  label: string;
  extension: string;
  contentType: string;
  cell: (text: string) => string;
  mark: string;
  end: string;
}

/** A header and a line an item; of a list, its values with commas between. */
export function delimited({ label, extension, contentType, cell, mark, end }: Delimited): WrittenFormat {
  return {
    label,
    extension,
    contentType: `${contentType}; charset=utf-8`,
    compile(rulebook) {
      const fields = compileFields(rulebook);
      return {
        head: fields.map(({ name }) => cell(name)).join(mark) + end,
        item: (values) => {
          let line = '';
          for (let i = 0; i < fields.length; i++) {
            const field = fields[i];
            const value = field === undefined ? undefined : values[field.attribute];
            if (i > 0) line += mark;
            if (value !== undefined && field) line += cell(field.texts(value).join(','));
          }
          return line + end;
        },
        foot: '',
      };
    },
  };
}
