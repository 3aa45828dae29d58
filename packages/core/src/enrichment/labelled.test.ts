/**
 * Texts with the values a person finds in them: a line a text, title ~ description, values as [words|attribute=value].
 * The three files of a hundred were labelled before there was an extractor; `later.txt` when it had been built on what they
 * showed, and before it had seen that one.
 */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseMeasure, plainStyle, ucumCode } from '../values/index.js';
import { compileExtractor } from './index.js';
import { sought } from './fixtures.js';
import type { Found, FoundValue, Place } from './model.js';

interface Label {
  attribute: string;
  value: FoundValue;
  in: Place;
  start: number;
  end: number;
}
interface Labelled {
  language: string;
  title: string;
  description: string;
  labels: Label[];
}

const keys: Record<string, string> = {
  c: 'colour',
  m: 'material',
  s: 'size',
  a: 'wearer',
  u: 'base',
  p: 'power',
  v: 'volume',
  w: 'weight',
  l: 'length',
  wi: 'width',
  h: 'height',
  d: 'diameter',
  k: 'colourTemperature',
  lm: 'brightness',
  V: 'voltage',
  ba: 'charge',
  n: 'pieces',
  dim: 'sizes',
  dw: 'dishwasher',
  di: 'dimmable',
  li: 'lid',
  wp: 'waterproof',
  mw: 'machineWashable',
};

const readLabelled = (file: string, marked?: string): Labelled[] =>
  readFileSync(new URL(`labelled/${file}`, import.meta.url), 'utf8')
    .split('\n')
    .filter(Boolean)
    .map((line) => {
      const parts = line.split(' ~ ');
      const language = marked ?? parts.shift() ?? '';
      const title = unmark(parts[0] ?? '', 'title', language);
      const description = unmark(parts[1] ?? '', 'description', language);
      return {
        language,
        title: title.text,
        description: description.text,
        labels: [...title.labels, ...description.labels],
      };
    });

function unmark(marked: string, place: Place, language: string): { text: string; labels: Label[] } {
  let text = '';
  let from = 0;
  const labels: Label[] = [];
  for (const found of marked.matchAll(/\[([^|\]]+)\|([^\]:]+)(?::([^\]]+))?\]/gu)) {
    const [all, words = '', name = '', value = ''] = found;
    text += marked.slice(from, found.index);
    if (name !== '-')
      labels.push({
        attribute: keys[name] ?? name,
        value: valueOf(name, words, value, language),
        in: place,
        start: text.length,
        end: text.length + words.length,
      });
    text += words;
    from = found.index + all.length;
  }
  return { text: text + marked.slice(from), labels };
}

function valueOf(name: string, words: string, value: string, language: string): FoundValue {
  if (value === 'true' || value === 'false') return value === 'true';
  if (name === 'n') return Number(value || words.replace(/\D/gu, ''));
  if (value !== '') return value;
  const decimal = language === 'en' ? '.' : ',';
  if (name === 'dim') {
    const amounts = words.match(/\d+(?:[.,]\d+)?/gu) ?? [];
    return { amounts: amounts.map((amount) => amount.replace(',', '.')), unit: /[a-z]+$/u.exec(words)?.[0] ?? '' };
  }
  const figure = /\d[\d.,  ]*\s?\p{L}+/u.exec(words)?.[0] ?? '';
  const read = parseMeasure(figure, { ...plainStyle, decimal }, undefined);
  if (!read.ok) throw new Error(`${words}: ${read.reason}`);
  return { amount: read.value.amount, unit: ucumCode(read.value.unit) };
}

const extractors = Object.fromEntries(
  ['en', 'de', 'sv'].map((language) => [language, compileExtractor({ attributes: sought, languages: [language] })]),
);

const isSame = (label: Label, found: Found) =>
  label.attribute === found.attribute && JSON.stringify(label.value) === JSON.stringify(found.value);

interface Tally {
  right: number;
  wrong: number;
  missed: number;
}

function judge(rows: readonly Labelled[]): Map<string, Tally> {
  const tallies = new Map<string, Tally>();
  const of = (attribute: string) => {
    const tally = tallies.get(attribute) ?? { right: 0, wrong: 0, missed: 0 };
    tallies.set(attribute, tally);
    return tally;
  };
  for (const row of rows) {
    const found = extractors[row.language]?.(row) ?? [];
    for (const one of found) of(one.attribute)[row.labels.some((label) => isSame(label, one)) ? 'right' : 'wrong']++;
    for (const label of row.labels) if (!found.some((one) => isSame(label, one))) of(label.attribute).missed++;
  }
  return tallies;
}

const score = (tallies: Iterable<Tally>) => {
  const sum = { right: 0, wrong: 0, missed: 0 };
  for (const { right, wrong, missed } of tallies) {
    sum.right += right;
    sum.wrong += wrong;
    sum.missed += missed;
  }
  return {
    precision: sum.right / (sum.right + sum.wrong),
    recall: sum.right / (sum.right + sum.missed),
    f1: (2 * sum.right) / (2 * sum.right + sum.wrong + sum.missed),
  };
};

const hundreds = ['en', 'de', 'sv'].flatMap((language) => readLabelled(`${language}.txt`, language));
const later = readLabelled('later.txt');

describe('labelled texts', () => {
  it('are three hundred in three languages', () => {
    expect(hundreds.length).toBeGreaterThanOrEqual(300);
  });

  it.each([
    ['labelled before', hundreds],
    ['labelled later', later],
  ])('%s are read right', (_, rows) => {
    const { precision, recall, f1 } = score(judge(rows).values());
    expect(precision).toBeGreaterThanOrEqual(0.98);
    expect(recall).toBeGreaterThanOrEqual(0.92);
    expect(f1).toBeGreaterThanOrEqual(0.95);
  });

  it('have no attribute that is mostly wrong', () => {
    for (const [attribute, tally] of judge([...hundreds, ...later]))
      expect(score([tally]).precision, attribute).toBeGreaterThan(0.9);
  });

  it('hold the words that a value is said to come from', () => {
    for (const row of [...hundreds, ...later])
      for (const found of extractors[row.language]?.(row) ?? []) {
        const label = row.labels.find((one) => isSame(one, found));
        expect(found.score).toBeGreaterThanOrEqual(0.5);
        expect(row[found.in].slice(found.start, found.end).trim()).not.toBe('');
        if (label && label.in === found.in && row.labels.filter((one) => isSame(one, found)).length === 1)
          expect(found.start < label.end && label.start < found.end, `${row.title} ~ ${row.description}`).toBe(true);
      }
  });
});
