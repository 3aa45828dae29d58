import { decimalMark } from '../values/index.js';
import { isHere } from './around.js';
import { collectFinders } from './kinds/index.js';
import type { Candidate, Company } from './kinds/model.js';
import type { DescribedText, ExtractorOptions, Found, SoughtAttribute } from './model.js';
import { phrasesOf } from './phrases.js';
import { type Side, readSide, wordsOf } from './side.js';

/** What is less likely than not is not answered. */
const leastScore = 0.5;
/** Of one attribute in one text; more is no text about goods. */
const mostFound = 200;
/** Longer texts are read so far. */
const mostRead = 20_000;

interface Placed extends Candidate {
  attribute: SoughtAttribute;
  side: Side;
}

/**
 * Finds values of attributes in titles and descriptions, each with the words it came from. Compiled once for a dictionary;
 * at most one value an attribute, unless the text says two of them side by side (“black/white”). A score is a probability.
 */
export function compileExtractor({
  attributes,
  brands = [],
  languages = [],
}: ExtractorOptions): (text: DescribedText) => Found[] {
  const finders = collectFinders(attributes);
  const brandNames = phrasesOf(brands.map(plain));
  const listed = phrasesOf(
    attributes.flatMap((attribute) =>
      attribute.kind === 'choice'
        ? Object.entries(attribute.spellings).flatMap(([value, list]) => [value, ...list].map(plain))
        : [],
    ),
  );
  return ({ title, description = '', language }) => {
    const known = {
      brands: brandNames,
      listed,
      language: language ?? (languages.length === 1 ? languages[0] : undefined),
    };
    const company: Company = { attributes, decimal: decimalMark(language ?? languages[0]) };
    const sides = [
      readSide(title.slice(0, mostRead), 'title', known),
      readSide(description.slice(0, mostRead), 'description', known),
    ];
    // What a title is about holds for its description.
    const [head] = sides;
    const read = sides.map((side) =>
      side.isTitle
        ? side
        : { ...side, misleads: head?.misleads ?? false, shines: side.shines || (head?.shines ?? false) },
    );
    const all: Placed[] = finders.flatMap(({ attribute, find }) =>
      read.flatMap((side) =>
        find(side, company)
          .slice(0, mostFound)
          .map((candidate) => ({ ...candidate, attribute, side })),
      ),
    );
    return attributes
      .flatMap((attribute) =>
        chosen(
          all.filter((one) => one.attribute === attribute),
          all,
        ),
      )
      .map(toFound);
  };
}

const plain = (text: string): string => wordsOf(text).join(' ');

const overlaps = (a: Placed, b: Placed): boolean => a.side === b.side && a.from < b.to && b.from < a.to;
const same = (a: Placed, b: Placed): boolean => JSON.stringify(a.value) === JSON.stringify(b.value);

/** The likeliest of an attribute, and what is said beside it. */
function chosen(own: readonly Placed[], all: readonly Placed[]): Placed[] {
  const ranked = own
    // Words that another attribute has better claim to are its own.
    .filter(
      (one) => !all.some((other) => other.attribute !== one.attribute && overlaps(one, other) && claims(other, one)),
    )
    .sort((a, b) => b.score - a.score || Number(b.side.isTitle) - Number(a.side.isTitle) || a.from - b.from);
  const [best] = ranked;
  if (!best) return [];
  const again = ranked.filter((one) => one !== best && same(one, best)).length;
  const against = ranked.filter((one) => !same(one, best));
  const beside = best.attribute.kind === 'choice' ? against.filter((one) => isBeside(best, one)) : [];
  const rivals = against.filter((one) => !beside.includes(one) && one.score >= best.score - 0.05);
  // What contradicts itself is less likely right.
  const score = Math.min(0.99, best.score + (again > 0 ? 0.03 : 0) - (rivals.length > 0 ? 0.2 : 0));
  return [{ ...best, score }, ...beside.slice(0, 1)].filter((one) => one.score >= leastScore);
}

/** A longer or surer reading of the same words; of equal ones the first attribute’s. */
function claims(other: Placed, one: Placed): boolean {
  const [longer, shorter] = [other.to - other.from, one.to - one.from];
  if (longer !== shorter) return longer > shorter;
  // “Gold” of a ring is what it is of.
  if (other.yields !== one.yields) return one.yields === true;
  return other.score > one.score;
}

/** “Black/white”, “black and white”: two words with nothing but a joint between them. */
function isBeside(best: Placed, other: Placed): boolean {
  if (best.side !== other.side) return false;
  const [first, second] = best.from < other.from ? [best, other] : [other, best];
  const joint = best.side.tokens[first.to]?.fold ?? '';
  return second.from === first.to + 1 && (/^[/&+-]$/u.test(joint) || isHere('joints', best.side, first.to));
}

function toFound({ attribute, value, side, from, to, score }: Placed): Found {
  return {
    attribute: attribute.key,
    value,
    in: side.place,
    start: side.tokens[from]?.start ?? 0,
    end: side.tokens[to - 1]?.end ?? 0,
    score: Math.round(score * 100) / 100,
  };
}
