/** Titles as matching compares them: figures, sizes of clothes, and words by what they mean, in whatever language. */
import { type ExclusiveKind, meaningOfTwo, meaningsOf, shortened } from '../lexicon/index.js';
import { type Figure, readFigures } from './figures.js';
import { letterSizes } from './words.js';

/** A word, or a part of a compound. */
export interface Atom {
  /** As the title has it, folded. */
  word: string;
  /** What it may mean, or its stem; with "!" before it where the title denies it. */
  ids: readonly string[];
  /** Of the kinds whose words exclude each other: only where it can mean nothing else. */
  kind: ExclusiveKind | 'size' | undefined;
}

export interface Reading {
  figures: readonly Figure[];
  atoms: readonly Atom[];
}

const idle = new Set(
  [
    'the|and|for|with|of|in|on|to|from|by|an|or|per|no|nr|size|each|approx|new|incl|including|pack|pcs|pieces|piece|set|box',
    'mit|und|fur|der|die|das|den|von|aus|zu|zum|zur|im|am|auf|bei|ca|er|stk|stuck|st|teile|packung|neu|oder|inkl|je',
    'och|med|for|av|till|fran|pa|den|det|ett|en|eller|stycken|styck|delar|bitar|ny|storlek|stl|cm|gr',
  ]
    .join('|')
    .split('|'),
);
const denying = new Set(['not', 'without', 'non', 'nicht', 'ohne', 'kein', 'keine', 'inte', 'ej', 'utan', 'icke']);

/** What reads titles; `isWord` tells words that other titles have, of which compounds may be made. */
export function compileReader(
  isWord: (word: string) => boolean,
): (title: string, brand?: readonly string[]) => Reading {
  const made = new Map<string, readonly Atom[]>();
  const atomsOf = (word: string): readonly Atom[] => {
    const known = made.get(word);
    if (known) return known;
    const atoms = splitWord(word, isWord);
    made.set(word, atoms);
    return atoms;
  };
  return (title, brand = []) => {
    const { figures, rest } = readFigures(title.replace(/['’]s(?!\p{L})/gu, ''));
    const words = rest.split(/[^\p{L}]+/u).filter(Boolean);
    const atoms: Atom[] = [];
    let denied = false;
    for (let i = 0; i < words.length; i++) {
      const word = words[i] as string;
      if (denying.has(word)) {
        denied = true;
        continue;
      }
      const size = sizeOf(word);
      if (size !== undefined) atoms.push({ word, ids: [`size ${size}`], kind: 'size' });
      if (word.length < 2 || size !== undefined || idle.has(word) || brand.includes(word)) continue;
      const two = meaningOfTwo(word, words[i + 1] ?? '');
      if (two) i++;
      const found: readonly Atom[] = two
        ? [{ word: `${word} ${words[i] ?? ''}`, ids: [two.name], kind: two.kind }]
        : atomsOf(word);
      atoms.push(
        ...(denied ? found.map((atom) => ({ ...atom, ids: atom.ids.map((id) => `!${id}`), kind: undefined })) : found),
      );
      denied = false;
    }
    return { figures, atoms };
  };
}

const sizeOf = (word: string): string | undefined =>
  /^(?:[sml]|x{1,4}[sl])$/u.test(word) ? (letterSizes[word] ?? word) : undefined;

function atomOf(word: string): Atom {
  const stems = shortened(word);
  const meanings = meaningsOf(word, stems);
  if (meanings.length === 0) return { word, ids: [stems.find((stem) => stem.length >= 4) ?? word], kind: undefined };
  const [only, ...others] = meanings;
  return { word, ids: meanings.map(({ name }) => name), kind: others.length === 0 ? only?.kind : undefined };
}

const hasMeaning = (word: string) => meaningsOf(word, shortened(word)).length > 0;

/** A word that means nothing by itself, as the two that it is made of: "Handseife", "merinopullover". */
function splitWord(word: string, isWord: (word: string) => boolean): readonly Atom[] {
  if (word.length < 7 || hasMeaning(word)) return [atomOf(word)];
  let best: { left: string; right: string; worth: number } | undefined;
  for (let at = 3; at <= word.length - 3; at++) {
    const right = word.slice(at);
    const rightWorth = hasMeaning(right) ? 2 : right.length >= 4 && isWord(right) ? 1 : 0;
    if (rightWorth === 0) continue;
    for (const cut of ['', 's', 'es', 'en', 'n', 'e']) {
      const whole = word.slice(0, at);
      if (!whole.endsWith(cut) || whole.length - cut.length < 3) continue;
      const left = whole.slice(0, whole.length - cut.length);
      const leftWorth = hasMeaning(left) ? 2 : left.length >= 4 && isWord(left) ? 1 : 0;
      const isTail = leftWorth === 0 && cut === '' && left.length >= 4 && right.length >= 4 && rightWorth === 2;
      if (leftWorth === 0 && !isTail) continue;
      const worth = 10 * (rightWorth + leftWorth) - cut.length + right.length / 100;
      if (!best || worth > best.worth) best = { left, right, worth };
    }
  }
  return best ? [...splitWord(best.left, isWord), ...splitWord(best.right, isWord)] : [atomOf(word)];
}
