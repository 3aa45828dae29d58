import { foldCode } from '../../values/index.js';
import type { Likeness } from '../model.js';

/** One of its other names, in whatever language, is this one. */
export const named: Likeness = {
  kind: 'named',
  rate({ others }, value) {
    const name = others.find((other) => foldCode(other) === foldCode(value));
    return name === undefined ? undefined : { score: 98, why: `“${name}” is one of its names` };
  },
};
