/** Values of a closed list, by their words; declined, and with “light” and “dark” before a colour. */
import { endsHere, isAsked, isBefore, isDenied, startsHere } from '../around.js';
import type { SoughtChoice } from '../model.js';
import { sensesOf } from '../sense.js';
import type { Side } from '../side.js';
import { matcherOf, wordsOf } from '../spellings.js';
import type { Candidate, Finder } from './model.js';

/** More of one list in one text than anybody reads. */
const mostFound = 200;

export function findChoice(attribute: SoughtChoice): Finder {
  const senses = sensesOf(attribute);
  const names = [attribute.label, ...(attribute.aliases ?? [])].map(wordsOf).filter(({ length }) => length > 0);
  const isColour = senses.has('colour');
  const isStuff = isColour || senses.has('material') || senses.has('pattern');
  const isSize = senses.has('size');
  const matchAt = matcherOf(attribute, isColour);

  return (side) => {
    const found: Candidate[] = [];
    for (let i = 0; i < side.tokens.length && found.length < mostFound; i++) {
      if (side.masked.has(i)) continue;
      const match = matchAt(side, i);
      if (!match) continue;
      const score = scoreOf(side, i, match.to, { isColour, isStuff, isSize, names });
      if (score > 0) found.push({ value: match.value, from: i, to: match.to, score, yields: isColour });
      i = match.to - 1;
    }
    return found;
  };
}

interface About {
  isColour: boolean;
  isStuff: boolean;
  isSize: boolean;
  names: readonly string[][];
}

const isJoined = (side: Side, at: number): boolean => {
  const [one, two] = [side.tokens[at], side.tokens[at + 1]];
  return one?.fold === '-' && one.glued && two?.kind === 'word' && two.glued;
};

function scoreOf(side: Side, from: number, to: number, about: About): number {
  const { tokens } = side;
  const announced = isAnnounced(side, from, about.names) || isNamedAfter(side, to, about.names);
  const next = tokens[to];
  // Glued to figures or letters it is part of something else: “M8”, “L-200”.
  if (next?.glued && next.kind !== 'sign') return 0;
  if (tokens[from]?.glued && tokens[from - 1]?.kind !== 'sign') return 0;
  if (isAsked(side, from) || isDenied(side, from, to)) return 0;
  if (about.isSize) return sizeScore(side, from, to, announced);
  if (!announced && isSlight(side, from, to)) return standsAlone(side, from, to) && side.isTitle ? 0.75 : 0;
  if (!about.isStuff) return announced ? 0.96 : side.isTitle ? 0.9 : 0.78;
  if (isJoined(side, to) && startsHere('looksAfter', side, to + 1) > 0) return 0;
  if (startsHere('looksAfter', side, to) > 0 || isBefore('looksBefore', side, from, 3)) return 0;
  if (!announced && isBefore('uses', side, from)) return 0;
  if (about.isColour && side.shines && endsHere('lights', side, from) > 0) return 0;
  const alone =
    from === side.clauses[from] &&
    (side.clauses[to] !== side.clauses[from] || side.clauses[to + 1] !== side.clauses[from]);
  if (side.misleads && !announced) return alone && !side.isTitle && !about.isColour ? 0.8 : 0;
  if (isAName(side, from, to) && !announced) return 0;
  if (announced) return 0.97;
  // “Paper 100 g/m²” tells of the paper.
  if (!side.isTitle && next?.kind === 'figure') return 0;
  // “Straw of silicone” is no straw; “with straw” has one.
  if (!about.isColour && (subjectOf.has(next?.fold ?? '') || comesWith(side, from, to))) return 0;
  const made = endsHere('madeOf', side, from) > 0;
  if (made && !about.isColour && !side.isTitle && isOfSomething(side, from) && !isMain(side, from, to)) return 0;
  const ofPart =
    (startsHere('parts', side, to) > 0 && tokens[to]?.kind === 'word') ||
    (isBefore('parts', side, from, made ? 5 : 3) && from - (side.clauses[from] ?? 0) > 0);
  if (ofPart) return isMain(side, from, to) ? 0.56 : 0;
  if (made) return side.isTitle ? 0.94 : 0.85;
  // What a sentence is about, and not what the goods are of: “Washable from most fabrics”.
  return side.isTitle ? 0.92 : 0.7;
}

/** Of the part that is most of the goods: a lamp’s shade, a mirror’s frame. */
const main = new Set(
  'shade|frame|head|blade|face|dial|cover|body|outer|seat|top|bezug|korpus|platte|sitz|kladsel|sits|schirm|rahmen|kopf|klinge|zifferblatt|skarm|ram|huvud|blad|urtavla|stripes|streifen|rander'.split(
    '|',
  ),
);

const isMain = (side: Side, from: number, to: number): boolean =>
  side.tokens.slice(Math.max(side.clauses[from] ?? 0, from - 5), to + 1).some(({ fold }) => main.has(fold));

/** “Straw of silicone”, “Bezug aus Samt”: a thing stands before what it is made of. */
function isOfSomething(side: Side, from: number): boolean {
  const at = from - endsHere('madeOf', side, from) - 1;
  const thing = side.tokens[at];
  return at >= (side.clauses[from] ?? 0) && thing?.kind === 'word' && !doing.has(thing.fold);
}

const doing = new Set(
  'made|crafted|woven|knitted|sewn|cut|forged|cast|built|turned|is|are|it|gefertigt|gewebt|gestrickt|genaht|geschmiedet|gegossen|besteht|ist|sind|hergestellt|tillverkad|tillverkat|gjord|gjort|vavd|vavt|stickad|ar|entirely|fully|mostly|ganz|helt|all'.split(
    '|',
  ),
);

const subjectOf = new Set(['of', 'aus', 'av', 'made', 'is', 'ist']);

const comesWith = (side: Side, from: number, to: number): boolean =>
  /^(?:with|mit|med|avec|con|met)$/u.test(side.tokens[from - 1]?.fold ?? '') && !isMain(side, from, to);

/** A letter or two, or a figure alone: an article, a unit, a number of anything (“A matt pot”, “3 A fuse”, “22 °C”). */
function isSlight(side: Side, from: number, to: number): boolean {
  const said = side.text.slice(side.tokens[from]?.start, side.tokens[to - 1]?.end);
  if (to !== from + 1) return false;
  if (side.tokens[from]?.kind === 'figure' || said.length < 2) return true;
  // “Ek” is a wood; “in” and “is” are no plugs.
  return said.length === 2 && !(side.isTitle && /^\p{Ll}+$/u.test(said) && !common.has(said));
}

const common = new Set(
  'an as at be by do go he if in is it me my no of on or so to up us we ab am da du er es im ja ob um zu av de du ej en ha om så vi på är et la le il un al el lo se te ou ne'.split(
    ' ',
  ),
);

/** Two capitals with nothing else between commas: “96 W, EU”. */
function standsAlone(side: Side, from: number, to: number): boolean {
  const { tokens, clauses, text } = side;
  const said = text.slice(tokens[from]?.start, tokens[to - 1]?.end);
  const ends = tokens[to] === undefined || (tokens[to]?.kind === 'sign' && clauses[to + 1] !== clauses[from]);
  return /^\p{Lu}{2}$/u.test(said) && from > 0 && from === clauses[from] && ends;
}

/** “Colour: red”, “material oak”. */
function isAnnounced(side: Side, from: number, names: readonly string[][]): boolean {
  let at = from - 1;
  while (at >= 0 && /^[:=.'’-]$/u.test(side.tokens[at]?.fold ?? '')) at--;
  return names.some((parts) => parts.every((part, n) => side.tokens[at - parts.length + 1 + n]?.fold === part));
}

/** “EU plug”. */
const isNamedAfter = (side: Side, to: number, names: readonly string[][]): boolean =>
  names.some((parts) => parts.every((part, n) => side.tokens[to + n]?.fold === part));

const notSizes = new Set(
  'nib|nibs|type|typ|model|modell|class|klasse|klass|grade|series|serie|category|kategorie|feder|plan|level|stufe|hose|gauge|vitamin'.split(
    '|',
  ),
);

/** A single letter is a size where it stands alone: behind a word for sizes, between signs, at an end. */
function sizeScore(side: Side, from: number, to: number, announced: boolean): number {
  const { tokens, text } = side;
  const said = text.slice(tokens[from]?.start, tokens[to - 1]?.end);
  const before = tokens[from - 1];
  const after = tokens[to];
  if (announced || announcesSize(side, from)) return 0.96;
  if (before?.kind === 'figure' || (before?.kind === 'word' && notSizes.has(before.fold))) return 0;
  if (said.length > 1) return side.isTitle ? 0.9 : 0.66;
  const opens = before === undefined || before.kind === 'sign';
  const closes = after === undefined || after.kind === 'sign';
  if (before?.fold === "'" || before?.fold === '’' || (after?.glued && /^['’&.]$/u.test(after.fold) && tokens[to + 1]))
    return 0;
  if (!closes) return 0;
  return side.isTitle ? (opens ? 0.85 : 0.72) : 0;
}

const sizeWords = new Set(
  'size|sizes|sz|gr|grosse|groesse|konfektionsgrosse|stl|storlek|str|storrelse|koko|maat|taille|talla|taglia|tamanho|rozmiar|velikost'.split(
    '|',
  ),
);

function announcesSize(side: Side, from: number): boolean {
  let at = from - 1;
  while (at >= 0 && /^[:.]$/u.test(side.tokens[at]?.fold ?? '')) at--;
  return sizeWords.has(side.tokens[at]?.fold ?? '');
}

/**
 * A capital in the middle of a title whose other words are small: a name (“Bookshelf Silver Lake, oak”). Where nouns have
 * capitals, or all words of the title, it says nothing.
 */
function isAName(side: Side, from: number, to: number): boolean {
  const { tokens, text } = side;
  if (!side.isTitle || side.nounsAreCapital || !isCapital(side, from) || from === side.clauses[from]) return false;
  const words = tokens.filter(({ kind, start, end }) => kind === 'word' && end - start > 2);
  const others = words.filter((token) => token !== tokens[from] && token !== words[0]);
  const small = others.filter(({ start }) => /\p{Ll}/u.test(text.charAt(start)));
  if (small.length === 0) return false;
  const next = tokens[to];
  const before = tokens[from - 1];
  const isPair =
    (next?.kind === 'word' && isCapital(side, to)) ||
    (before?.kind === 'word' && isCapital(side, from - 1) && from - 1 !== side.clauses[from]);
  return isPair || small.length >= others.length / 2;
}

const isCapital = (side: Side, i: number): boolean => /\p{Lu}/u.test(side.text.charAt(side.tokens[i]?.start ?? 0));
