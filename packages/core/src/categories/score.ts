/** How well each of their categories suits one of ours by itself: words of its name, of its path and of titles. */
import type { Compiled, Own, Target } from './compiled.js';
import type { Text, Word } from './words.js';

/** Each measured to help on the labelled trees beside this. */
const weights = { name: 3, part: 1.2, path: 0.7, title: 1.5 };
const [k1, b] = [1.2, 0.75];
const fields = { leaf: 2, path: 0.5 };
const shares = { words: 1.2, alternatives: 3, leaf: 2, path: 3, wholePath: 3, titles: 6 };
/** A word that is cut counts by its parts, the right one more: it says what the thing is. */
const cut = { all: 0.9, left: 0.4, right: 0.6 };
const ofRelatedTitle = 0.8;

export interface Scorer {
  /** By candidate. */
  score(own: Own): Float64Array;
  /** How near our word comes to the words of a candidate’s name, or of its whole path. */
  nearest(word: number, target: number, where: 'leaf' | 'whole'): number;
}

export function compileScorer({ targets, idfLeaf, idfPath, related }: Compiled): Scorer {
  const rows = { leaf: new Map<number, Float64Array>(), whole: new Map<number, Float64Array>() };
  const postings = { leaf: post(targets, 'leafBag'), whole: post(targets, 'wholeBag') };
  const none = new Float64Array(targets.length);

  /** By candidate: the best that any of its words is to ours. */
  function rowOf(id: number, where: 'leaf' | 'whole'): Float64Array {
    const known = rows[where].get(id);
    if (known) return known;
    let row: Float64Array | undefined;
    for (const [theirs, near] of [[id, 1] as const, ...(related.get(id) ?? [])])
      for (const { target, confidence } of postings[where].get(theirs) ?? []) {
        row ??= new Float64Array(targets.length);
        row[target] = Math.max(row[target] ?? 0, near * confidence);
      }
    rows[where].set(id, row ?? none);
    return row ?? none;
  }
  /** The same, of a word that may be cut, and may be one of a phrase. */
  function matchOf({ id, confidence, parts }: Word, phrases: Text['phrases'], where: 'leaf' | 'whole'): Float64Array {
    const whole = rowOf(id, where);
    const said = phrases.filter(({ of }) => of.includes(id)).map((phrase) => rowOf(phrase.id, where));
    if (!parts && said.length === 0 && confidence === 1) return whole;
    const [left, right] = parts ? [rowOf(parts[0], where), rowOf(parts[1], where)] : [none, none];
    return whole.map((one, t) =>
      Math.max(Math.min(one, confidence), ofParts(left[t] ?? 0, right[t] ?? 0), ...said.map((row) => row[t] ?? 0)),
    );
  }
  const lengths = targets.map(({ leaf }) => leaf.words.length);
  const mean = lengths.reduce((sum, n) => sum + n, 0) / Math.max(1, lengths.length);
  const normal = lengths.map((length) => 1 - b + (b * length) / Math.max(1, mean));

  return {
    nearest: (word, target, where) => rowOf(word, where)[target] ?? 0,
    score(own) {
      const result = new Float64Array(targets.length);
      /** BM25F: what is asked for, in their name and in their path. */
      const ask = (word: Word, weight: number, phrases: Text['phrases']) => {
        const [leaf, whole] = [matchOf(word, phrases, 'leaf'), matchOf(word, phrases, 'whole')];
        const idf = idfLeaf[word.id] ?? 1;
        for (let t = 0; t < result.length; t++) {
          const tf = (fields.leaf * (leaf[t] ?? 0)) / (normal[t] ?? 1) + fields.path * (whole[t] ?? 0);
          if (tf > 0) result[t] = (result[t] ?? 0) + (shares.words * weight * idf * tf) / (k1 + tf);
        }
      };
      for (const word of own.leaf.words) {
        ask(word, weights.name, own.leaf.phrases);
        for (const part of word.parts ?? []) ask({ id: part, confidence: 1 }, weights.part, []);
      }
      for (const word of own.above.words) ask(word, weights.path, own.above.phrases);
      for (const { word, typical } of own.titles.values()) {
        ask(word, weights.title * typical, []);
        const leaf = matchOf(word, [], 'leaf');
        const idf = idfLeaf[word.id] ?? 1;
        for (let t = 0; t < result.length; t++) {
          const near = leaf[t] ?? 0;
          if (near === 0) continue;
          const isEqual = targets[t]?.leafBag.has(word.id);
          result[t] = (result[t] ?? 0) + shares.titles * typical * near * (isEqual ? idf : ofRelatedTitle);
        }
      }
      const above = coverage(own.above, idfPath, 'whole');
      const cover = coverOf([own.leaf, own.above], own.titles);
      const coverAbove = coverOf([own.above]);
      const mine = own.alternatives.map((text) => ({ text, cover: coverOf([text]) }));
      for (let t = 0; t < result.length; t++) {
        const target = targets[t];
        if (!target) continue;
        result[t] =
          (result[t] ?? 0) +
          shares.leaf * covered(target.leaf, cover, idfLeaf) +
          shares.wholePath * covered(target.above, cover, idfPath) +
          shares.path * Math.sqrt((above[t] ?? 0) * covered(target.above, coverAbove, idfPath)) +
          shares.alternatives * bestPair(mine, target);
      }
      return result;
    },
  };

  /** By candidate: the share of our words that are met there, by how much they say. */
  function coverage(text: Text, idf: Float64Array, where: 'leaf' | 'whole'): Float64Array {
    const sum = new Float64Array(targets.length);
    let all = 0;
    for (const word of text.words) {
      const weight = idf[word.id] ?? 1;
      all += weight;
      matchOf(word, text.phrases, where).forEach((near, t) => (sum[t] = (sum[t] ?? 0) + weight * near));
    }
    return all === 0 ? sum : sum.map((one) => one / all);
  }

  /** By their word: the best that any of ours in these texts, or in titles, is to it. */
  function coverOf(texts: readonly Text[], titles?: Own['titles']): Map<number, number> {
    const cover = new Map<number, number>();
    const put = (id: number, near: number) => {
      if (near > (cover.get(id) ?? 0)) cover.set(id, near);
    };
    const say = (id: number, weight: number) => {
      put(id, weight);
      for (const [theirs, near] of related.get(id) ?? []) put(theirs, weight * near);
    };
    for (const text of texts) for (const [id, confidence] of saidBy(text)) say(id, confidence);
    for (const { word, share } of titles?.values() ?? []) {
      say(word.id, share);
      for (const part of word.parts ?? []) say(part, cut.all * share);
    }
    return cover;
  }

  /** The share of their words that ours meet. */
  function covered(text: Text, cover: ReadonlyMap<number, number>, idf: Float64Array): number {
    return metShare(text, idf, (id) => cover.get(id) ?? 0);
  }

  /** Of all that our name and theirs may each be read as: the two that meet best, by what is met worse. */
  function bestPair(mine: readonly { text: Text; cover: ReadonlyMap<number, number> }[], target: Target): number {
    let best = 0;
    for (const { text, cover } of mine)
      for (const theirs of target.alternatives) {
        const forth = covered(theirs, cover, idfLeaf);
        if (forth > best) best = Math.max(best, Math.min(forth, back(text, theirs)));
      }
    return best;
  }

  /** The share of our words that one of their alternatives meets. */
  function back(mine: Text, theirs: Text): number {
    const words = saidBy(theirs);
    return metShare(mine, idfLeaf, (id) =>
      Math.max(words.get(id) ?? 0, ...[...(related.get(id) ?? [])].map(([one, near]) => near * (words.get(one) ?? 0))),
    );
  }
}

/** By word, part of one and phrase: how sure it is that the text says it. */
function saidBy({ words, phrases }: Text): Map<number, number> {
  const said = new Map<number, number>();
  const put = (id: number, confidence: number) => said.set(id, Math.max(said.get(id) ?? 0, confidence));
  for (const { id, confidence, parts = [] } of words) {
    put(id, confidence);
    for (const part of parts) put(part, cut.all * confidence);
  }
  for (const { id } of phrases) put(id, 1);
  return said;
}

const ofParts = (left: number, right: number) => cut.all * (cut.left * left + cut.right * right);

/** The share of a text’s words that are met, by how much each says: whole, by their parts, or in a phrase. */
function metShare({ words, phrases }: Text, idf: Float64Array, near: (id: number) => number): number {
  let [sum, all] = [0, 0];
  for (const { id, parts } of words) {
    const weight = idf[id] ?? 1;
    const split = parts ? ofParts(near(parts[0]), near(parts[1])) : 0;
    const said = phrases.filter(({ of }) => of.includes(id)).map((phrase) => near(phrase.id));
    sum += weight * Math.max(near(id), split, ...said);
    all += weight;
  }
  return all === 0 ? 0 : sum / all;
}

function post(targets: readonly Target[], which: 'leafBag' | 'wholeBag') {
  const postings = new Map<number, { target: number; confidence: number }[]>();
  targets.forEach((target, at) => {
    for (const [id, confidence] of target[which]) {
      const list = postings.get(id);
      if (list) list.push({ target: at, confidence });
      else postings.set(id, [{ target: at, confidence }]);
    }
  });
  return postings;
}
