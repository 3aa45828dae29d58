import { distance } from '../hues.js';
import type { Likeness } from '../model.js';

/** At this distance two colours look related and no more. */
const far = 0.15;
const best = 90;

/** Both are colours, and look alike. */
export const hue: Likeness = {
  kind: 'hue',
  rate({ word, others }, value, { hues }) {
    const theirs = hues?.of(value);
    if (!theirs) return undefined;
    const ours = [word, ...others].flatMap((text) => hues?.of(text) ?? []);
    if (ours.length === 0) return undefined;
    const nearest = Math.min(...ours.map((one) => distance(one, theirs)));
    const score = Math.round(best * Math.exp(-((nearest / far) ** 2)));
    return { score, why: score > 75 ? 'looks nearly the same' : 'looks like it' };
  },
};
