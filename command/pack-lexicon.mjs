/**
 * Makes the lexicon of English that category suggestions know related words by, out of WordNet's nouns:
 *   node command/pack-lexicon.mjs DICT > packages/core/src/lexicon/wordnet/en.ts
 * DICT is the directory with WordNet 3's `data.noun` and `index.noun`. What comes of it is checked in; nothing fetches it.
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
/** A hypernym less deep below the root says nothing. */
const leastDepth = 5;

const lines = (name) =>
  readFileSync(join(dict, name), 'utf8')
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith(' '));

const synsets = new Map();
for (const line of lines('data.noun')) {
  const fields = line.split(' | ')[0].split(' ');
  const words = parseInt(fields[3], 16);
  const names = Array.from({ length: words }, (_, i) => fields[4 + 2 * i]);
  const pointers = fields.slice(5 + 2 * words);
  const above = [];
  for (let i = 0; i + 3 < pointers.length + 1; i += 4) if (pointers[i] === '@') above.push(pointers[i + 1]);
  // An instance, a city or a person, is no kind of goods.
  synsets.set(fields[0], { file: Number(fields[1]), names, above, isInstance: pointers.includes('@i') });
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
  // Of what is no kind of goods, what people say often: cooks, cycling, heat.
  if (mine.length === 0 && Number(rest[Number(pointers) + 1]) < leastTold) continue;
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
/** Between the two parts: no line of either is it. */
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
const packed = deflateRawSync(Buffer.from(`${tree.join('\n')}${parting}${words.join('\n')}`), { level: 9 }).toString(
  'base64',
);
process.stderr.write(`${words.length} words, ${tree.length} meanings, ${Math.round(packed.length / 1000)} kB\n`);
const license = readFileSync(join(dict, '../LICENSE'), 'utf8')
  .trim()
  .split('\n')
  .map((line) => ` * ${line.trim()}`.trimEnd());
process.stdout.write(
  `/* Made by command/pack-lexicon.mjs out of this, and not written by hand:\n *\n${license.join('\n')}\n */\nexport const packed =\n  '${packed}';\n`,
);
