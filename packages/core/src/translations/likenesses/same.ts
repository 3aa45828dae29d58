import { foldCode } from '../../values/index.js';
import type { Likeness } from '../model.js';

/** The same word, however it is written; or one in another form. */
export const same: Likeness = {
  kind: 'same',
  rate({ word }, value, { language }) {
    if (foldCode(word) === foldCode(value)) return { score: 100, why: 'the same word' };
    const stem = (text: string) => (text.toLowerCase().match(/\p{L}+/gu) ?? []).map(language.stem).join(' ');
    return stem(word) !== '' && stem(word) === stem(value) && !/\d/.test(word + value)
      ? { score: 97, why: 'the same word in another form' }
      : undefined;
  },
};
