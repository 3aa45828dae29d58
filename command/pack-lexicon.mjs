/**
 * Makes the lexicon of English that category suggestions know related words by, out of WordNet's nouns:
 *   node command/pack-lexicon.mjs DICT > packages/core/src/lexicon/wordnet/en.ts
 * DICT is the directory with WordNet 3's `data.noun`, `index.noun` and `data.verb`. What comes of it is checked in; nothing fetches it.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';

const [dict = '.'] = process.argv.slice(2);
/** Lexicographer files of what goods are, are made of, or are for: animal, artefact, body, food, object, plant, substance. */
const goods = new Set([5, 6, 8, 13, 17, 20, 27]);
const [mostSenses, mostOthers] = [4, 1];
/** Senses of a word that were met in WordNet’s texts. */
const leastTold = 1;
/** What people do and what they are called by it, by lexicographer file: a word of one such sense is kept untold. */
const doing = new Set([4, 18]);
/** A hypernym less deep below the root says nothing. */
const leastDepth = 5;

const lines = (name) =>
  readFileSync(join(dict, name), 'utf8')
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith(' '));

/** The words a meaning is told in, without examples of its use. */
const wordsOf = (gloss) => [
  ...new Set(
    gloss
      .split(';')
      .filter((part) => !part.trim().startsWith('"'))
      .join(' ')
      .toLowerCase()
      .match(/[a-z]{3,}/g) ?? [],
  ),
];

/** Words of verbs, by where their meaning stands. */
const verbs = new Map();
for (const line of lines('data.verb')) {
  const fields = line.split(' ');
  verbs.set(
    fields[0],
    Array.from({ length: parseInt(fields[3], 16) }, (_, i) => fields[4 + 2 * i]),
  );
}

const synsets = new Map();
for (const line of lines('data.noun')) {
  const [head, ...gloss] = line.split(' | ');
  const fields = head.split(' ');
  const words = parseInt(fields[3], 16);
  const names = Array.from({ length: words }, (_, i) => fields[4 + 2 * i]);
  const pointers = fields.slice(5 + 2 * words);
  const above = [];
  /** What is done by it: a sander sands. */
  const done = [];
  for (let i = 0; i + 3 < pointers.length + 1; i += 4) {
    if (pointers[i] === '@') above.push(pointers[i + 1]);
    if (pointers[i] === '+' && pointers[i + 2] === 'v')
      done.push(verbs.get(pointers[i + 1])?.[parseInt(pointers[i + 3].slice(2), 16) - 1]);
  }
  // An instance, a city or a person, is no kind of goods.
  synsets.set(fields[0], {
    file: Number(fields[1]),
    names,
    above,
    isInstance: pointers.includes('@i'),
    told: wordsOf(gloss.join(' | ')),
    done: [...new Set(done)].filter((word) => /^[a-z]{3,}$/.test(word)),
  });
}

const depths = new Map();
function depthOf(offset) {
  if (!depths.has(offset)) {
    const { above } = synsets.get(offset);
    depths.set(offset, above.length === 0 ? 0 : 1 + Math.min(...above.map(depthOf)));
  }
  return depths.get(offset);
}

const lemmas = new Map();
for (const line of lines('index.noun')) {
  const [word, , , pointers, ...rest] = line.split(' ');
  if (!/^[a-z]+(?:[_'-][a-z]+){0,2}$/.test(word)) continue;
  const senses = rest.slice(Number(pointers) + 2).filter((offset) => synsets.get(offset)?.isInstance === false);
  const isGoods = (offset) => {
    const { file, names } = synsets.get(offset);
    // Genera and species under their Latin names.
    const isLatin = names.some((name) => /^[A-Z]/.test(name) && name.toLowerCase() === word);
    return goods.has(file) && !isLatin;
  };
  const mine = senses.filter(isGoods).slice(0, mostSenses);
  const isDoing = senses.length === 1 && doing.has(synsets.get(senses[0]).file) && !word.includes('_');
  // Of what is no kind of goods, what people say often, or who does something and what: cycling, heat, chefs, hiking.
  if (mine.length === 0 && Number(rest[Number(pointers) + 1]) < leastTold && !isDoing) continue;
  const others = senses.filter((offset) => !goods.has(synsets.get(offset).file)).slice(0, mostOthers);
  lemmas.set(word, [...mine, ...others].slice(0, mostSenses));
}

const kept = new Set();
const keep = (offset) => {
  if (kept.has(offset) || depthOf(offset) < leastDepth) return;
  kept.add(offset);
  synsets.get(offset).above.forEach(keep);
};
for (const senses of lemmas.values()) senses.forEach(keep);
// Those above first: a synset is told from the one above it by how far apart they stand.
const ordered = [...kept].sort((a, b) => depthOf(a) - depthOf(b) || (a < b ? -1 : 1));
const ids = new Map(ordered.map((offset, i) => [offset, i]));
const tree = ordered.map((offset) =>
  synsets
    .get(offset)
    .above.filter((one) => ids.has(one))
    .map((one) => ids.get(one).toString(36))
    .join('.'),
);
/** Lexicographer files of what is told: what is made, eaten, worn on a body, found or done; animals and plants say little. */
const telling = new Set([4, 6, 8, 13, 17, 27]);
/** Meanings that are told in a word: of fewer it meets nothing, of more it says nothing. */
const [leastIn, mostIn] = [2, 500];
const tellingOf = (offset) => (telling.has(synsets.get(offset).file) ? synsets.get(offset) : { told: [], done: [] });
const counts = new Map();
for (const offset of ordered) for (const word of tellingOf(offset).told) counts.set(word, (counts.get(word) ?? 0) + 1);
const inUse = new Map([...counts].filter(([, n]) => n >= leastIn && n <= mostIn));
for (const offset of ordered) for (const word of tellingOf(offset).done) inUse.set(word, counts.get(word) ?? 0);
const vocabulary = [...inUse].sort(([a, n], [b, m]) => m - n || (a < b ? -1 : 1)).map(([word]) => word);
const numbers = new Map(vocabulary.map((word, i) => [word, i.toString(36)]));
const numbered = (words) => words.flatMap((word) => numbers.get(word) ?? []).join('.');
const told = ordered.map((offset) => {
  const { told, done } = tellingOf(offset);
  return `${numbered(told.filter((word) => (counts.get(word) ?? 0) <= mostIn))}${done.length > 0 ? ` ${numbered(done)}` : ''}`;
});
/** Between the parts: no line of any is it. */
const parting = '\n=\n';
let before = '';
const words = [...lemmas]
  .map(([word, senses]) => [
    word,
    senses.filter((offset) => ids.has(offset)).map((offset) => ids.get(offset).toString(36)),
  ])
  .filter(([, senses]) => senses.length > 0)
  .sort(([a], [b]) => (a < b ? -1 : 1))
  .map(([word, senses]) => {
    let shared = 0;
    while (shared < Math.min(word.length, before.length, 35) && word[shared] === before[shared]) shared++;
    before = word;
    return `${shared.toString(36)}${word.slice(shared)} ${senses.join(' ')}`;
  });
const parts = [tree, words, vocabulary, told];
const text = parts.map((lines) => lines.join('\n')).join(parting);
const packed = deflateRawSync(Buffer.from(text), { level: 9 }).toString('base64');
process.stderr.write(`${words.length} words, ${tree.length} meanings, ${Math.round(packed.length / 1000)} kB\n`);
const license = readFileSync(join(dict, '../LICENSE'), 'utf8')
  .trim()
  .split('\n')
  .map((line) => ` * ${line.trim()}`.trimEnd());
process.stdout.write(
  `/* Made by command/pack-lexicon.mjs out of this, and not written by hand:\n *\n${license.join('\n')}\n */\nexport const packed =\n  '${packed}';\n`,
);
