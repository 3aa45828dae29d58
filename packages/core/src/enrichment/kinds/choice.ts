/** Values of a closed list, by their words; declined, and with “light” and “dark” before a colour. */
import { isAsked, isDenied } from '../around.js';
import type { SoughtChoice } from '../model.js';
import { type Phrases, phrasesOf } from '../phrases.js';
import { announcedBy } from '../sense.js';
import type { Side } from '../side.js';
import { matcherOf } from '../spellings.js';
import type { Candidate, Finder } from './model.js';
import { sizeScore } from './sizes-worn.js';
import { isSlight, slightScore } from './slight.js';
import { stuffScore } from './stuff.js';

/** More of one list in one text than anybody reads. */
const mostFound = 200;

/** How likely words mean what they say, by what the attribute is about; announced is what its name stands before or behind of. */
type Likelihood = (side: Side, from: number, to: number, announced: boolean) => number;

export function findChoice(attribute: SoughtChoice): Finder {
  const { senses, names } = announcedBy(attribute);
  const named = phrasesOf(names);
  const isColour = senses.has('colour');
  const likelihood: Likelihood = senses.has('size')
    ? sizeScore
    : isColour || senses.has('material') || senses.has('pattern')
      ? (side, from, to, announced) => stuffScore(side, from, to, { announced, isColour })
      : plainScore;
  const matchAt = matcherOf(attribute, isColour);

  const scoreOf = (side: Side, from: number, to: number): number => {
    const { tokens } = side;
    // Glued to figures or letters it is part of something else: “M8”, “L-200”.
    if (tokens[to]?.glued && tokens[to]?.kind !== 'sign') return 0;
    if (tokens[from]?.glued && tokens[from - 1]?.kind !== 'sign') return 0;
    if (isAsked(side, from) || isDenied(side, from, to)) return 0;
    return likelihood(side, from, to, isAnnounced(side, from, named) || named.startsAt(side, to) > 0);
  };

  return (side) => {
    const found: Candidate[] = [];
    for (let i = 0; i < side.tokens.length && found.length < mostFound; i++) {
      if (side.masked.has(i)) continue;
      const match = matchAt(side, i);
      if (!match) continue;
      const score = scoreOf(side, i, match.to);
      if (score > 0) found.push({ value: match.value, from: i, to: match.to, score, yields: isColour });
      i = match.to - 1;
    }
    return found;
  };
}

const plainScore: Likelihood = (side, from, to, announced) =>
  announced ? 0.96 : isSlight(side, from, to) ? slightScore(side, from, to) : side.isTitle ? 0.9 : 0.78;

/** “Colour: red”, “material oak”. */
function isAnnounced(side: Side, from: number, named: Phrases): boolean {
  let at = from;
  while (/^[:=]$/u.test(side.tokens[at - 1]?.fold ?? '')) at--;
  return named.endsBefore(side, at) > 0;
}
