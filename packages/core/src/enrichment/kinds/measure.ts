import { endsHere, isAfter, isAsked, isBefore, isDenied, startsHere } from '../around.js';
import { type SoughtMeasure } from '../model.js';
import { type Phrases, phrasesOf } from '../phrases.js';
import { announcedBy } from '../sense.js';
import type { Side } from '../side.js';
import { ucumCode } from '../../values/index.js';
import { words } from '../words/index.js';
import { type Figure, figuresIn } from './figures.js';
import type { Finder } from './model.js';

/** Words that say it behind the figure: “20 cm high”. */
const behindWords = {
  height: words.high,
  width: words.wide,
  length: words.long,
  depth: words.deep,
  diameter: words.across,
} as const;
const beforeWords = {
  weight: words.weighs,
  volume: words.holds,
  height: ['h'],
  width: ['w', 'b'],
  length: ['l'],
  depth: ['d', 't'],
} as const;

export function findMeasure(attribute: SoughtMeasure): Finder {
  const { senses, names } = announcedBy(attribute);
  const isSense = (sense: string) => (senses as ReadonlySet<string>).has(sense);
  const before = phrasesOf([
    ...names,
    ...Object.entries(beforeWords).flatMap(([sense, list]) => (isSense(sense) ? list : [])),
  ]);
  const behind = phrasesOf([
    ...names,
    ...Object.entries(behindWords).flatMap(([sense, list]) => (isSense(sense) ? list : [])),
  ]);
  const isOfLight = names.some((name) => words.lightNames.some((word) => name.includes(word)));
  return (side, company) => {
    const rivals = company.attributes.filter(
      (other) => other.kind === 'measure' && other.dimension === attribute.dimension,
    ).length;
    return figuresIn(side, company.decimal).flatMap((figure) => {
      if (figure.dimension !== attribute.dimension) return [];
      const score = scoreOf(side, figure, { before, behind, rivals, isOfLight, isLength: isSense('length') });
      if (score <= 0) return [];
      return [
        { value: { amount: figure.amount, unit: ucumCode(figure.unit) }, from: figure.from, to: figure.to, score },
      ];
    });
  };
}

interface About {
  before: Phrases;
  behind: Phrases;
  rivals: number;
  isOfLight: boolean;
  isLength: boolean;
}

function scoreOf(side: Side, figure: Figure, about: About): number {
  const { from, to } = figure;
  for (let i = from; i < to; i++) if (side.masked.has(i)) return 0;
  if (figure.isRange || isAsked(side, from) || isDenied(side, from, to)) return 0;
  if (isBefore('limits', side, from, 2)) return 0;
  if (isBefore('uses', side, from) || isOthers(side, from)) return 0;
  if (isAfter('others', side, to, 2)) return 0;
  if (figure.dimension === 'mass' && (isBefore('loads', side, from) || isAfter('loads', side, to, 3))) return 0;
  const announced = isAnnounced(side, figure, about);
  if (announced < 0) return 0;
  if (figure.isProduct && figure.dimension === 'length')
    return about.isLength && side.isTitle && isLong(figure) && !/^\s?[x×*]/u.test(side.text.slice(figure.end))
      ? 0.75
      : 0;
  if (announced === 2 && !side.isTitle && isBefore('parts', side, from, 3)) return 0;
  if (announced > 0) return side.isTitle ? 0.96 : 0.94;
  if (!side.isTitle && isBefore('parts', side, from, 5)) return 0;
  if (side.isTitle && (side.clauses[from] ?? 0) > 0 && isBefore('parts', side, from, 3)) return 0;
  // “Heads of 250 g”: so much has something else.
  if (!side.isTitle && /^(?:of|von|om|de)$/u.test(side.tokens[from - 1]?.fold ?? '')) return 0;
  if (figure.dimension === 'temperature') {
    if (about.isOfLight !== (figure.unit === 'k')) return 0;
    if (!about.isOfLight) return 0;
    return side.isTitle ? 0.92 : 0.85;
  }
  if (figure.dimension === 'length') return about.isLength && isLong(figure) && side.isTitle ? 0.78 : 0;
  if (about.rivals > 1 || figure.dimension === 'time' || figure.dimension === 'ratio') return 0;
  return side.isTitle ? 0.92 : 0.72;
}

/** Of something beside the goods; the words a title begins with are the goods. */
const isOthers = (side: Side, from: number): boolean =>
  side.isTitle && side.clauses[from] === 0 ? endsHere('others', side, from) > 0 : isBefore('others', side, from, 5);

/** What is sold by the metre is said in metres, and nothing else of it. */
const isLong = ({ unit, amount }: Figure): boolean => (unit === 'm' || unit === 'yd') && Number(amount) >= 0.5;

/** 1 where a word for it stands before, 2 behind, −1 where that word is somebody else’s: “length of the pendant 2 cm”. */
function isAnnounced(side: Side, { from, to }: Figure, { before, behind }: About): number {
  let at = from;
  // “Height: approx. 20 cm”, “height of 20 cm”.
  for (let steps = 0; steps < 4 && at > (side.clauses[from] ?? 0); steps++) {
    const length = before.endsBefore(side, at);
    if (length > 0) return isOwn(side, at - length) ? 1 : -1;
    const plain = endsHere('plain', side, at);
    const sign = /^[:=.~≈-]$/u.test(side.tokens[at - 1]?.fold ?? '');
    if (plain === 0 && !sign) break;
    at -= plain > 0 ? plain : 1;
  }
  let next = to;
  if (side.tokens[next]?.fold === '(' || side.tokens[next]?.fold === '-') next++;
  const length = behind.startsAt(side, next);
  if (length === 0) return 0;
  // “150 cm long cable”, “20 cm Höhe des Sockels”.
  return startsHere('ofWhat', side, next + length) > 0 && !side.isTitle ? -1 : 2;
}

/** Nothing before the word says whose it is: “pile height”, “seat height” are others’. */
function isOwn(side: Side, at: number): boolean {
  const clause = side.clauses[at] ?? 0;
  if (at <= clause) return true;
  if (endsHere('others', side, at) > 0 || endsHere('parts', side, at) > 0) return false;
  const token = side.tokens[at - 1];
  if (token?.kind !== 'word') return true;
  return side.isTitle || endsHere('plain', side, at) > 0;
}
