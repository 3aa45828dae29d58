/** An item as the columns of a row. */
import type { ChannelValue } from '../../checks/index.js';
import type { Rulebook } from '../../rulebooks/index.js';
import { fromMinor } from '../../values/index.js';
import { type FeedMeta, type WrittenFormat, attributesByKey, textsOf } from './model.js';

export interface Field {
  attribute: string;
  name: string;
  plain?: boolean | undefined;
  /** One text for each value. */
  texts: (value: ChannelValue) => string[];
}

/** Fields in their order; money is written with the currency of the market behind it. */
export function compileFields(rulebook: Rulebook, { currency }: FeedMeta): Field[] {
  const byKey = attributesByKey(rulebook);
  return (rulebook.exchange.rows?.fields ?? []).map((field) => {
    const attribute = byKey.get(field.attribute);
    const money = (value: ChannelValue) => [
      typeof value === 'number' ? `${fromMinor(value, currency)} ${currency}` : String(value),
    ];
    return { ...field, texts: attribute?.type === 'money' ? money : textsOf(attribute, currency) };
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
    compile(rulebook, meta) {
      const fields = compileFields(rulebook, meta);
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
