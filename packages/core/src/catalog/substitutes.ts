/** Goods that could stand in for others: how alike two are, and in what. */
import {
  type Attribute,
  type Measure,
  type Role,
  type Value,
  closedList,
  foldText,
  identifyingRoles,
  members,
} from '../values/index.js';
import { isComputed } from './dictionary.js';
import type { Facts } from './product.js';

/** What of a product is compared. */
export interface Compared {
  facts: Facts;
  /** Regular price in one currency, in decimals. */
  price: string | null;
  /** Null of a single. */
  family: number | null;
}

export interface Alike {
  /** 0 to 1. */
  score: number;
  /** Labels of what is the same in both, and of what is not. */
  same: string[];
  other: string[];
}

/** Of what says nothing about what goods are good for. */
const besides: ReadonlySet<Role> = new Set<Role>([
  ...identifyingRoles,
  'title',
  'description',
  'pictures',
  'state',
  'category',
  'purchasePrice',
  'recommendedPrice',
  'customsCode',
  'reference',
  'substitutes',
  'related',
]);
const comparedTypes: ReadonlySet<Attribute['type']> = new Set(['text', 'choice', 'boolean', 'number', 'measure']);
/** Letters of a text that is a word for something rather than a sentence about it. */
const longestWord = 60;
/** Of the same family, as many attributes would count that are the same. */
const ofFamily = 3;
/** Equal enough to be told as the same. */
const nearly = 0.95;

/**
 * How well `other` could be taken for `goods`: the mean over all that `goods` hold of how near `other` comes, its price counted
 * as one of them. Figures are as near as the smaller is to the larger, doubly so; words are equal or not; what only one of them
 * has counts as half as bad as what differs, and a family they share for them.
 */
export function alike(goods: Compared, other: Compared, attributes: ReadonlyMap<string, Attribute>): Alike {
  const same: string[] = [];
  const differs: string[] = [];
  let sum = 0;
  let weight = 0;
  const add = (label: string | undefined, near: number, w: number) => {
    sum += near * w;
    weight += w;
    if (label !== undefined) (near >= nearly ? same : differs).push(label);
  };
  for (const attribute of attributes.values()) {
    const mine = goods.facts[attribute.key];
    if (mine === undefined || !isCompared(attribute)) continue;
    const theirs = other.facts[attribute.key];
    if (theirs === undefined) add(undefined, 0, 0.5);
    else if (isWord(mine) && isWord(theirs)) add(attribute.label, nearness(mine, theirs, attribute), 1);
  }
  if (goods.price !== null && other.price !== null)
    add(undefined, ofFigures(Number(goods.price), Number(other.price)), 1);
  if (goods.family !== null && goods.family === other.family) add(undefined, 1, ofFamily);
  return { score: weight === 0 ? 0 : sum / weight, same, other: differs };
}

const isCompared = ({ key, type, role, perLanguage }: Attribute) =>
  comparedTypes.has(type) && !perLanguage && !isComputed(key) && !(role && besides.has(role));

const isWord = (value: Value) => typeof value !== 'string' || value.length <= longestWord;

function nearness(mine: Value, theirs: Value, attribute: Attribute): number {
  const [a, b] = [members(mine), members(theirs)];
  if (attribute.type === 'measure' && a.length === 1 && b.length === 1)
    return ofFigures((a[0] as Measure).base, (b[0] as Measure).base);
  if (attribute.type === 'number' && a.length === 1 && b.length === 1) return ofFigures(Number(a[0]), Number(b[0]));
  const list = closedList(attribute);
  const fold = (value: unknown) => (list ? String(value) : foldText(String(value)));
  const [left, right] = [new Set(a.map(fold)), new Set(b.map(fold))];
  const both = [...left].filter((word) => right.has(word)).length;
  return both / Math.max(1, left.size + right.size - both);
}

/** 1 where equal, 0 where one is half of the other or less. */
function ofFigures(a: number, b: number): number {
  if (a === b) return 1;
  const [low, high] = [Math.min(Math.abs(a), Math.abs(b)), Math.max(Math.abs(a), Math.abs(b))];
  return a * b <= 0 ? 0 : Math.max(0, 2 * (low / high) - 1);
}
