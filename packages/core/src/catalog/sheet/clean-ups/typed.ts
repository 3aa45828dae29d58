import { parseValue, plainStyle, plainValue } from '../../../values/index.js';
import type { CleanUp } from './model.js';

export const typed: CleanUp = {
  key: 'typed',
  label: 'Figures, units and list values as they are kept',
  example: {
    before: '62 CM',
    after: '62 cm',
    attribute: {
      key: 'width',
      label: 'Width',
      type: 'measure',
      dimension: 'length',
      many: false,
      perLanguage: false,
      level: 'variant',
      group: 'Sizes',
    },
  },
  clean: (text, attribute) => {
    if (!attribute || text.trim() === '' || attribute.type === 'richText') return text;
    const read = parseValue(text, plainStyle, attribute);
    return read.ok ? plainValue(read.value, attribute) : text;
  },
};
