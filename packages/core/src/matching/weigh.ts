/** What speaks for and against two products being the same goods, in points and in words. */
import { foldCode, foldText } from '../values/index.js';
import { isOneApart, isSameBrand } from './brands.js';
import type { MatchItem } from './candidates.js';
import { contradictions, isNear, nearFigure } from './contradict.js';
import type { Evidence } from './evidence.js';
import type { KnownWords, LearntWords } from './learnt.js';
import type { Figure } from './figures.js';
import type { Atom, Reading } from './reading.js';
import type { Traits } from './traits.js';

/** A product with its titles read. */
export interface Prepared {
  item: MatchItem;
  /** Of its attribute, or a known one that its titles name. */
  brand: readonly string[];
  /** One a title. */
  readings: readonly Reading[];
  sizes: readonly [attribute: string, base: number][];
}

export interface Weighing {
  /** How much a word or a figure tells: the rarer, the more. */
  weight: (id: string) => number;
  known: KnownWords | undefined;
  learnt: LearntWords | undefined;
}

/** Sums of evidence are probabilities only below this where something is left that tells goods apart. */
export const sure = 80;

type Add = (kind: Evidence['kind'], points: number, words: string) => void;

export function weigh(p: Prepared, q: Prepared, weighing: Weighing): Evidence[] {
  const evidence: Evidence[] = [];
  const add: Add = (kind, points, words) => evidence.push({ kind, points, words });
  const [x, y] = [p.item, q.item];
  const shared = x.identifiers.filter((identifier) => y.identifiers.includes(identifier));
  for (const identifier of shared)
    add(identifier.startsWith('brand') ? 'brand-mpn' : 'identifier', 40, `the same ${identifier}`);
  if (x.mpn && y.mpn && shared.length === 0 && readsAlike(x.mpn, y.mpn))
    add('brand-mpn', 25, `MPN ${x.mpn} and ${y.mpn} read alike`);
  weighBrands(p, q, add);
  const differing = weighTitles(p, q, weighing, add);
  weighTraits(x, y, add);
  weighSizes(p, q, add);
  weighWords(x, y, weighing.known, add);
  weighPrices(x, y, add);
  if (differing.length > 0) holdBelowSure(evidence, differing.join(', and '));
  return evidence;
}

export const scoreOf = (evidence: readonly Evidence[]): number =>
  Math.max(0, Math.min(100, Math.round(evidence.reduce((sum, { points }) => sum + points, 0))));

/** Lets pairs wait for a person that cannot be sure for a reason, whatever else agrees. */
export function holdBelowSure(evidence: Evidence[], words: string, at = sure - 1): void {
  const over = Math.round(evidence.reduce((sum, { points }) => sum + points, 0)) - at;
  evidence.push({ kind: 'against', points: Math.min(-1, -over), words });
}

function weighBrands(p: Prepared, q: Prepared, add: Add): void {
  if (p.brand.length === 0 || q.brand.length === 0) return;
  const [mine, theirs] = [p.item.brand ?? p.brand.join(' '), q.item.brand ?? q.brand.join(' ')];
  if (!isSameBrand(p.brand, q.brand)) add('against', -40, `brand ${mine} and ${theirs}`);
  else if (mine === theirs) add('brand', 18, `brand ${mine} on both`);
  else add('brand', 18, `brand ${mine} is ${theirs}`);
}

const isBranded = ({ brand }: Prepared) => brand.length > 0;

/** Weighs the two titles that agree best; answers what tells them apart without contradicting. */
function weighTitles(p: Prepared, q: Prepared, weighing: Weighing, add: Add): string[] {
  let best: Compared | undefined;
  for (const mine of p.readings)
    for (const theirs of q.readings) {
      const compared = compareTitles([mine, p.sizes], [theirs, q.sizes], weighing);
      if (!best || compared.points > best.points) best = compared;
    }
  if (!best) return [];
  if (best.shared.length > 0)
    add(
      'title',
      Math.round(best.alike * (isBranded(p) && isBranded(q) ? 50 : 58)),
      `titles share ${best.shared.slice(0, 4).join(', ')}: ${Math.round(best.alike * 100)} % alike`,
    );
  if (best.figures.length > 0)
    add('axes', Math.min(24, 6 + 6 * best.figures.length), `both name ${best.figures.join(', ')}`);
  for (const words of best.against) add('against', -45, words);
  return best.differing;
}

/** A title, and the measures of the attributes beside it. */
type Told = readonly [Reading, Prepared['sizes']];

const isMeasured = ({ base, written, dimension }: Figure, sizes: Prepared['sizes']): boolean =>
  sizes.some(([, size]) => (dimension === undefined ? size === written : isNear(size, base, nearFigure)));

interface Compared {
  /** 0–1. */
  alike: number;
  shared: string[];
  figures: string[];
  against: string[];
  differing: string[];
  points: number;
}

function compareTitles([a, mySizes]: Told, [b, theirSizes]: Told, weighing: Weighing): Compared {
  const figures = pairFigures(a.figures, b.figures);
  // What one says in its title and the other in an attribute is said by both.
  const left = [
    ...figures.mine.filter((figure) => !isMeasured(figure, theirSizes)),
    ...figures.theirs.filter((figure) => !isMeasured(figure, mySizes)),
  ].map(({ text }) => text);
  const against = figures.against;
  const [mine, theirs] = [cover(a.atoms, b.atoms, weighing), cover(b.atoms, a.atoms, weighing)];
  const figureWeight = figures.pairs.reduce((sum, [f]) => sum + 0.5 * weighing.weight(figureId(f)), 0);
  const share = ({ matched, all }: Cover) =>
    all + figureWeight === 0 ? 0 : (matched + figureWeight) / (all + figureWeight);
  const [x, y] = [share(mine), share(theirs)];
  const alike = mine.matched === 0 ? 0 : 0.6 * Math.max(x, y) + 0.4 * Math.min(x, y);
  against.push(...excluded(a.atoms, b.atoms), ...denials(a.atoms, b.atoms));
  const differing: string[] = [];
  if (mine.left.length > 0 && theirs.left.length > 0)
    differing.push(
      `“${mine.left.slice(0, 2).join(' ')}” and “${theirs.left.slice(0, 2).join(' ')}” may tell them apart`,
    );
  else if (mine.shared.length + theirs.shared.length < 2) differing.push('their titles share too little');
  else if (Math.min(x, y) < 0.55) differing.push('one says much that the other does not');
  if (left.length > 0) differing.push(`only one names ${[...new Set(left)].slice(0, 2).join(' and ')}`);
  const points = 50 * alike + 6 * figures.pairs.length - 45 * against.length;
  return { alike, shared: mine.shared, figures: figures.pairs.map(([f]) => f.text), against, differing, points };
}

interface Cover {
  matched: number;
  all: number;
  shared: string[];
  /** Words of the one that nothing of the other answers. */
  left: string[];
}

function cover(atoms: readonly Atom[], others: readonly Atom[], weighing: Weighing): Cover {
  const answer: Cover = { matched: 0, all: 0, shared: [], left: [] };
  const told = new Set<string>();
  for (const atom of atoms) {
    const id = atom.ids[0] ?? '';
    if (told.has(id)) continue;
    told.add(id);
    const worth = weighing.weight(id);
    const met = others.reduce((best, other) => Math.max(best, nearness(atom, other, weighing.learnt)), 0);
    answer.all += worth;
    answer.matched += worth * met;
    if (met >= 0.5) answer.shared.push(atom.word);
    else answer.left.push(atom.word);
  }
  return answer;
}

/** 0–1: how surely two words mean one thing. */
function nearness(a: Atom, b: Atom, learnt: LearntWords | undefined): number {
  for (const id of a.ids) if (b.ids.includes(id)) return 1;
  const taught = learnt?.get(a.word)?.get(b.word) ?? 0;
  return Math.max(taught, spellingNearness(a.word, b.word));
}

/** Words of kin languages and slips of the pen: a long common beginning, or one sign apart. */
function spellingNearness(a: string, b: string): number {
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  if (short.length < 4) return 0;
  let same = 0;
  while (same < short.length && short[same] === long[same]) same++;
  if (same >= 4 && same >= 0.75 * long.length) return 0.85;
  if (short.length >= 6 && same >= 5 && same >= 0.6 * long.length) return 0.7;
  return short.length >= 6 && isOneApart(short, long) ? 0.7 : 0;
}

export const figureId = ({ dimension, base }: Figure): string => `#${dimension ?? ''} ${Number(base.toPrecision(4))}`;

const isSameFigure = (f: Figure, g: Figure): boolean =>
  f.dimension !== undefined && g.dimension !== undefined
    ? f.dimension === g.dimension && isNear(f.base, g.base, nearFigure)
    : f.written === g.written;
const isComparable = (f: Figure, g: Figure): boolean =>
  f.dimension === undefined || g.dimension === undefined || f.dimension === g.dimension;

/** Figures that both name, those of one, and those that cannot be of the same goods. */
function pairFigures(mine: readonly Figure[], theirs: readonly Figure[]) {
  const open = new Set(theirs.map((_, i) => i));
  const pairs: [Figure, Figure][] = [];
  const left: Figure[] = [];
  const isRepeated = (f: Figure, of: readonly [Figure, Figure][]) =>
    of.some((pair) => pair.some((g) => isSameFigure(f, g)));
  for (const f of mine) {
    const candidates = [...open].filter((i) => isSameFigure(f, theirs[i] as Figure));
    const found = candidates.find((i) => theirs[i]?.dimension === f.dimension) ?? candidates[0];
    if (found === undefined) left.push(f);
    else {
      open.delete(found);
      pairs.push([f, theirs[found] as Figure]);
    }
  }
  // Said twice by one, once by the other: “KD18 18 V”.
  const [only, others] = [
    left.filter((f) => !isRepeated(f, pairs)),
    [...open].map((i) => theirs[i] as Figure).filter((g) => !isRepeated(g, pairs)),
  ];
  const odd = only.flatMap((f) =>
    others.filter((g) => isComparable(f, g)).map((g) => `one names ${f.text}, the other ${g.text}`),
  );
  return { pairs, against: odd.slice(0, 1), mine: only, theirs: others };
}

/** Colours, materials, scents, wearers, sizes: both name some of a kind, and none that is the same. */
function excluded(a: readonly Atom[], b: readonly Atom[]): string[] {
  const against: string[] = [];
  for (const kind of new Set(a.flatMap((atom) => atom.kind ?? []))) {
    const [mine, theirs] = [a.filter((atom) => atom.kind === kind), b.filter((atom) => atom.kind === kind)];
    if (theirs.length === 0) continue;
    const isMet = (of: readonly Atom[], by: readonly Atom[]) =>
      of.some((atom) =>
        by.some(
          (other) => atom.ids.some((id) => other.ids.includes(id)) || spellingNearness(atom.word, other.word) > 0,
        ),
      );
    if (!isMet(mine, b) && !isMet(theirs, a)) against.push(`one is ${wordsOf(mine)}, the other ${wordsOf(theirs)}`);
  }
  return against;
}

/** What one has and the other says it has not. */
function denials(a: readonly Atom[], b: readonly Atom[]): string[] {
  const has = (atoms: readonly Atom[], id: string) => atoms.some(({ ids }) => ids.includes(id));
  return [...new Set([...a, ...b].flatMap(({ ids }) => ids.filter((id) => id.startsWith('!'))))].flatMap((id) =>
    (has(a, id) && has(b, id.slice(1))) || (has(b, id) && has(a, id.slice(1))) ? [`one denies “${id.slice(1)}”`] : [],
  );
}

const wordsOf = (atoms: readonly Atom[]): string => [...new Set(atoms.map(({ word }) => word))].join(' and ');

/** What one says and the other denies; brands and measures are weighed by themselves. */
function weighTraits(x: MatchItem, y: MatchItem, add: Add): void {
  if (!x.traits || !y.traits) return;
  const rest = (traits: Traits): Traits => ({ ...traits, brand: '', measures: new Map(), figures: new Map() });
  for (const words of contradictions(rest(x.traits), rest(y.traits)))
    add('against', words.includes('GTIN') ? -40 : -30, words);
}

/** Measures of attributes against each other, and against figures that stand only in titles. */
function weighSizes(p: Prepared, q: Prepared, add: Add): void {
  const equal: string[] = [];
  const slack = new Set([...(p.item.slack ?? []), ...(q.item.slack ?? [])]);
  for (const [attribute, size] of p.sizes) {
    const other = q.item.sizes[attribute];
    if (other === undefined) continue;
    const off = Math.abs(size - other) / Math.max(Math.abs(size), Math.abs(other), 1e-9);
    if (off < 0.005) equal.push(attribute);
    else if (off > 0.12)
      add('against', slack.has(attribute) ? -8 : -30, `${attribute} differs by ${Math.round(off * 100)} %`);
  }
  if (equal.length > 0) add('axes', Math.min(28, 14 + 5 * (equal.length - 1)), `equal ${equal.join(', ')}`);
  else
    for (const [one, other] of [
      [p, q],
      [q, p],
    ] as const) {
      const told = saidElsewhere(one, other);
      if (told !== undefined) return add('axes', 12, told);
    }
}

/** A figure of one's titles that is a measure of the other's attributes. */
function saidElsewhere(one: Prepared, other: Prepared): string | undefined {
  if (one.sizes.length > 0 || other.sizes.length === 0) return undefined;
  for (const { figures } of one.readings)
    for (const figure of figures) {
      if (figure.dimension === undefined) continue;
      const met = other.sizes.find(([, base]) => isNear(base, figure.base, nearFigure));
      if (met) return `${figure.text} of the title is the ${met[0]} of the other`;
    }
  return undefined;
}

function weighWords(x: MatchItem, y: MatchItem, known: KnownWords | undefined, add: Add): void {
  for (const [attribute, word] of Object.entries(x.words)) {
    const other = y.words[attribute];
    if (other === undefined) continue;
    const [mine, theirs] = [foldText(word), foldText(other)];
    const table = known?.get(attribute);
    if (mine === theirs) add('axes', 12, `${attribute} ${word} on both`);
    else if (table?.get(theirs)?.has(mine) || table?.get(mine)?.has(theirs))
      add('axes', 12, `${attribute} ${word} is ${other}, as on goods joined before`);
    // A word nobody has met yet may be one of a third language.
    else if (table?.has(mine) && table.has(theirs))
      add('against', -30, `${attribute} ${word} is not ${other}, as on goods joined before`);
  }
}

function weighPrices(x: MatchItem, y: MatchItem, add: Add): void {
  for (const [kind, amount] of Object.entries(x.prices)) {
    const other = y.prices[kind];
    if (other === undefined || amount === 0 || other === 0) continue;
    const off = Math.abs(amount - other) / Math.max(amount, other);
    if (off <= 0.1) add('price', 6, `${kind} price within ${Math.max(1, Math.round(off * 100))} %`);
    else if (off > 0.5) add('against', -8, `${kind} price differs by ${Math.round(off * 100)} %`);
    return;
  }
}

/** Equal once letters that are taken for figures, and leading zeros, no longer count. Another sign is another variant. */
function readsAlike(a: string, b: string): boolean {
  const plain = (mpn: string) => foldCode(mpn).replaceAll('o', '0').replace(/[il]/g, '1').replace(/^0+/, '');
  return plain(a) !== '' && plain(a) === plain(b);
}
