import { plainText } from '../../../values/index.js';
import type { CleanUp } from './model.js';

export const markup: CleanUp = {
  key: 'markup',
  label: 'Markup away, the text stays',
  example: { before: '<p>Oak &amp; ash</p>', after: 'Oak & ash' },
  clean: (text) => (/[<&]/.test(text) ? plainText(text) : text),
};
