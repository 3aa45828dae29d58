/** Which value of a channel’s closed list one of ours is: by its names, its words, what it means, how it looks, how it is written. */
import { languageOf } from '../lexicon/languages.js';
import { loadLexicon } from '../lexicon/relations.js';
import { loadHues } from './hues.js';
import { hue } from './likenesses/hue.js';
import { letters } from './likenesses/letters.js';
import { meaning } from './likenesses/meaning.js';
import { named } from './likenesses/named.js';
import { same } from './likenesses/same.js';
import { words } from './likenesses/words.js';
import type { Around, Likeness, OwnWord, SuggestedValue } from './model.js';

export type { OwnWord, SuggestedValue } from './model.js';

/** The surest first. */
const likenesses: readonly Likeness[] = [same, named, meaning, hue, words, letters];

const leastScore = 35;
/** Of a list of which so many are usual words for colours, all are spoken of as colours. */
const leastColours = 0.6;

/** Suggestions for a list in that language (BCP 47), asked again and again for words of ours. */
export async function compileTranslator({
  values,
  language,
  isColour,
}: {
  values: readonly string[];
  language: string;
  /** The attribute of ours is one of colours, whatever the list. */
  isColour: boolean;
}): Promise<(own: OwnWord, most: number) => SuggestedValue[]> {
  const hues = await loadHues();
  const seen = values.filter(hues.isUsual).length;
  const around: Around = {
    language: languageOf(language),
    relations: await loadLexicon(language),
    hues: isColour || seen >= leastColours * values.length ? hues : undefined,
  };
  return (own, most) =>
    values
      .map((value) => rateValue(own, value, around))
      .filter(({ score }) => score >= leastScore)
      .sort((a, b) => b.score - a.score)
      .slice(0, most);
}

/** By the surest of all it has in common; two kinds that agree say a little more than one. */
function rateValue(own: OwnWord, value: string, around: Around): SuggestedValue {
  const rated = likenesses
    .flatMap(({ rate }) => rate(own, value, around) ?? [])
    .filter(({ score }) => score >= leastScore)
    .sort((a, b) => b.score - a.score);
  const [best, second] = rated;
  if (!best) return { value, score: 0, evidence: [] };
  const more = second && best.score < 95 ? Math.round((95 - best.score) * (second.score / 300)) : 0;
  return { value, score: best.score + more, evidence: rated.map(({ why }) => why) };
}
