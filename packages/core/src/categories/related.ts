/** How near words are: equal, related by what they mean, or learnt from what was chosen. */
import type { Relations } from '../lexicon/relations.js';
import type { Reading } from './words.js';

/** By steps between two meanings, straight up or over what both are kinds of. */
function nearness(up: number, down: number): number {
  const steps = up + down;
  if (steps === 0) return 1;
  if (steps === 1) return 0.75;
  if (steps === 2) return up === 1 ? 0.25 : 0.4;
  return 0;
}

/** For each sense down the list of a word's. */
const rarer = 0.93;
const leastNear = 0.2;
/** Of words that are related and not equal. */
const ofRelated = 0.9;

/** By word of one side: words of the other with how near they are, itself not among them. */
type Related = Map<number, Map<number, number>>;

/** Brings one of theirs as near to ours, unless it is nearer already. */
function bring(related: Related, mine: number, their: number, near: number): void {
  const known = related.get(mine) ?? new Map<number, number>();
  known.set(their, Math.max(known.get(their) ?? 0, near));
  related.set(mine, known);
}

/** Of each of our words, which of theirs mean nearly the same. */
export function relate(
  relations: Relations | undefined,
  reading: Reading,
  own: Iterable<number>,
  theirs: Iterable<number>,
): Related {
  const related: Related = new Map();
  if (!relations) return related;
  const byMeaning = new Map<number, { word: number; up: number; rank: number }[]>();
  const meaningsOf = (word: number) => reading.formsOf(word).flatMap((form) => relations.meanings(form));
  for (const word of theirs)
    for (const { id, up, rank } of meaningsOf(word)) {
      const list = byMeaning.get(id);
      if (list) list.push({ word, up, rank });
      else byMeaning.set(id, [{ word, up, rank }]);
    }
  for (const word of own)
    for (const { id, up, rank } of meaningsOf(word))
      for (const other of byMeaning.get(id) ?? []) {
        const wn = nearness(up, other.up) * rarer ** (rank + other.rank);
        if (other.word !== word && wn > leastNear) bring(related, word, other.word, ofRelated * wn);
      }
  relateByTelling(related, relations, reading, [...own], [...theirs]);
  return related;
}

/** Of words one of which is told by the other: goggles “protect the eyes”, a casserole is “a dish in which food is cooked”. */
const ofTold = 0.25;
/** Of a thing and what is done with it: sanders, and what is for sanding. */
const ofDone = 0.75;

function relateByTelling(
  related: Related,
  relations: Relations,
  reading: Reading,
  own: readonly number[],
  theirs: readonly number[],
): void {
  const [ours, others] = [new Set(own), new Set(theirs)];
  const put = (mine: number, their: number, by: number) => {
    if (mine !== their && ours.has(mine) && others.has(their)) bring(related, mine, their, by);
  };
  const tellingOf = (word: number) =>
    reading
      .formsOf(word)
      .flatMap((form) => [
        ...relations.told(form).map((told) => [told, ofTold] as const),
        ...relations.done(form).map((done) => [done, ofDone] as const),
      ])
      .flatMap(([word, by]) => {
        const id = reading.numberOf(word);
        return id === undefined ? [] : [[id, by] as const];
      });
  for (const word of own) for (const [told, by] of tellingOf(word)) put(word, told, by);
  for (const word of theirs) for (const [told, by] of tellingOf(word)) put(told, word, by);
}

const leastSeen = 2;
const ofLearnt = 0.8;
const leastLearnt = 0.25;

/** Words that were chosen together at least twice, seldom with others, are related too. */
export function learn(related: Related, pairs: readonly { own: readonly number[]; target: readonly number[] }[]): void {
  const [together, ownSeen, targetSeen] = [
    new Map<string, number>(),
    new Map<number, number>(),
    new Map<number, number>(),
  ];
  const add = <K>(counts: Map<K, number>, key: K) => counts.set(key, (counts.get(key) ?? 0) + 1);
  for (const { own, target } of pairs) {
    for (const u of new Set(own)) add(ownSeen, u);
    for (const v of new Set(target)) add(targetSeen, v);
    for (const u of new Set(own)) for (const v of new Set(target)) if (u !== v) add(together, `${u} ${v}`);
  }
  for (const [key, n] of together) {
    if (n < leastSeen) continue;
    const [u = 0, v = 0] = key.split(' ').map(Number);
    const near = ((ofLearnt * n) / ((ownSeen.get(u) ?? 0) + 1)) * (n / ((targetSeen.get(v) ?? 0) + 1));
    if (near > leastLearnt) bring(related, u, v, near);
  }
}
