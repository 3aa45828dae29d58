/** Words and phrases that a rulebook lists, found whole in texts: in any case, however they are spaced or hyphened. */

const escaped = (phrase: string) =>
  phrase
    .trim()
    .split(/[\s\p{Pd}]+/u)
    .map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
    .join('[\\s\\p{Pd}]+');

/** Finds the first of them; `more` is found too, as it stands. */
export const finderOf = (phrases: readonly string[], more?: string): RegExp =>
  new RegExp(
    `(?<![\\p{L}\\p{N}])(?:${phrases.map(escaped).join('|')})(?![\\p{L}\\p{N}])${more === undefined ? '' : `|${more}`}`,
    'iu',
  );
