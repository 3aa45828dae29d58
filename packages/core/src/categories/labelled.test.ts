/** Suggestions on trees and goods of three trades, labelled before the ranking was written: how many are right, and whether the probabilities mean what they say. */
import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  type CategorySuggestion,
  type OwnCategory,
  type TargetCategory,
  loadLexicon,
  suggestCategories,
} from './index.js';

interface Labelled {
  language: string;
  own: OwnCategory[];
  target: TargetCategory[];
  /** By our path: theirs. */
  right: Map<string, string>;
}

const directory = new URL('../../src/categories/labelled/', import.meta.url);

/** Lines of `names | titles | where it belongs`, and the channel's tree by indents of two. */
function readLabelled(file: string): Labelled {
  const [head = '', tree = ''] = readFileSync(new URL(file, directory), 'utf8').split('# tree\n');
  const own: OwnCategory[] = [];
  const right = new Map<string, string>();
  for (const line of head.split('\n').filter((one) => one.includes(' | '))) {
    if (line.startsWith('#')) continue;
    const [path = '', titles = '', where = ''] = line.split(' | ');
    own.push({ path, names: path.split(' / '), titles: titles.split('; ') });
    right.set(path, where);
  }
  const lines = tree.split('\n').filter(Boolean);
  const depth = (line = '') => line.search(/\S/) / 2;
  const above: string[] = [];
  const target = lines.map((line, i): TargetCategory => {
    above.splice(depth(line), Infinity, line.trim());
    const isLeaf = !(depth(lines[i + 1]) > depth(line));
    return { path: above.join(' / '), names: [...above], isLeaf };
  });
  return { language: file.split('.')[1] ?? 'en', own, target, right };
}

const files = readdirSync(directory).filter((name) => name.endsWith('.txt'));
const lexicon = await loadLexicon('en');
const ask = ({ own, target, language }: Labelled, chosen: { own: string; target: string }[] = []) =>
  suggestCategories({
    ...{ own, target, language, chosen },
    leafOnly: true,
    most: 5,
    lexicon: language === 'en' ? lexicon : undefined,
  });

/** What a glance at words in common would say: the name weighs most, then what it stands under, then titles. */
function overlap({ own, target }: Labelled): Map<string, string[]> {
  const words = (text: string) =>
    (text.toLowerCase().match(/\p{L}{3,}/gu) ?? []).map((word) => word.replace(/(?<=[^s])s$/, ''));
  const leaves = target
    .filter(({ isLeaf }) => isLeaf)
    .map(({ path, names }) => ({
      path,
      leaf: new Set(words(names.at(-1) ?? '')),
      above: new Set(words(names.slice(0, -1).join(' '))),
    }));
  return new Map(
    own.map(({ path, names, titles }) => {
      const asked = new Map<string, number>();
      const put = (text: string, weight: number) => {
        for (const word of words(text)) asked.set(word, Math.max(asked.get(word) ?? 0, weight));
      };
      for (const title of titles) put(title, 0.5);
      put(names.slice(0, -1).join(' '), 1);
      put(names.at(-1) ?? '', 3);
      const scored = leaves.map(({ path: to, leaf, above }) => {
        let sum = 0;
        for (const [word, weight] of asked) sum += leaf.has(word) ? 2 * weight : above.has(word) ? weight : 0;
        return { to, score: sum / Math.sqrt(1 + leaf.size) };
      });
      return [
        path,
        scored
          .sort((a, b) => b.score - a.score)
          .slice(0, 3)
          .map(({ to }) => to),
      ];
    }),
  );
}

const share = (n: number, of: number) => Math.round((100 * n) / of);

describe('category suggestions on labelled trees', () => {
  it.each(files)('%s: more are right than words in common tell, first and among three', (file) => {
    const labelled = readLabelled(file);
    for (const where of labelled.right.values())
      expect(
        labelled.target.some(({ path, isLeaf }) => path === where && isLeaf),
        where,
      ).toBe(true);
    const found = ask(labelled);
    const plain = overlap(labelled);
    const count = (of: (path: string) => readonly string[], most: number) =>
      [...labelled.right].filter(([path, where]) => of(path).slice(0, most).includes(where)).length;
    const paths = (path: string) => (found.get(path) ?? []).map((one) => one.path);
    const glance = (path: string) => plain.get(path) ?? [];
    const n = labelled.own.length;
    const [first, three] = [share(count(paths, 1), n), share(count(paths, 3), n)];
    const [glanced, glancedThree] = [share(count(glance, 1), n), share(count(glance, 3), n)];
    if (process.env.VELVET_REPORT)
      process.stdout.write(`${file}: first ${first}, three ${three}; words in common ${glanced}, ${glancedThree}\n`);
    expect(first).toBeGreaterThanOrEqual(glanced + (labelled.language === 'en' ? 6 : 0));
    expect(three).toBeGreaterThanOrEqual(glancedThree + (labelled.language === 'en' ? 4 : 0));
  });

  it('in English are right in 85 of 100, and in 90 among the first three', () => {
    const ranks = files.map(readLabelled).flatMap((labelled) => {
      if (labelled.language !== 'en') return [];
      const found = ask(labelled);
      return [...labelled.right].map(([path, where]) => (found.get(path) ?? []).findIndex((one) => one.path === where));
    });
    const among = (most: number) => share(ranks.filter((rank) => rank >= 0 && rank < most).length, ranks.length);
    expect(among(1)).toBeGreaterThanOrEqual(85);
    expect(among(3)).toBeGreaterThanOrEqual(90);
  });

  const all = files.flatMap((file): { best: CategorySuggestion | undefined; where: string }[] => {
    const labelled = readLabelled(file);
    const found = ask(labelled);
    return [...labelled.right].map(([path, where]) => ({ best: found.get(path)?.[0], where }));
  });
  const rightOf = (list: typeof all) => list.filter(({ best, where }) => best?.path === where).length / list.length;

  it('are right as often as they say: nine in ten of those at 90 % and above', () => {
    const likely = all.filter(({ best }) => (best?.p ?? 0) >= 0.9);
    expect(likely.length).toBeGreaterThan(60);
    expect(rightOf(likely)).toBeGreaterThanOrEqual(0.9);
  });

  it('that are taken many at once are nearly all right', () => {
    const sure = all.filter(({ best }) => best?.isSure);
    expect(sure.length).toBeGreaterThan(60);
    expect(rightOf(sure)).toBeGreaterThanOrEqual(0.97);
  });

  it.each(files)('%s: what was mapped before makes the rest no worse, whichever half it is', (file) => {
    const labelled = readLabelled(file);
    const bare = ask(labelled);
    const isIn = [
      (i: number) => i % 2 === 0,
      (i: number) => i % 2 === 1,
      (i: number) => i % 4 < 2,
      (i: number) => i < labelled.right.size / 2,
    ];
    for (const half of isIn) {
      const chosen = [...labelled.right].filter((_, i) => half(i)).map(([own, target]) => ({ own, target }));
      const known = ask(labelled, chosen);
      const rest = [...labelled.right].filter((_, i) => !half(i));
      const right = (found: typeof bare) => rest.filter(([path, where]) => found.get(path)?.[0]?.path === where).length;
      expect(right(known)).toBeGreaterThanOrEqual(right(bare));
    }
  });
});

describe('category suggestions', () => {
  const seeds: TargetCategory[] = [
    { path: 'g', names: ['Garden'], isLeaf: false },
    { path: 'g/h', names: ['Garden', 'Herb seeds'], isLeaf: true },
    { path: 'g/s', names: ['Garden', 'Salad seeds'], isLeaf: true },
    { path: 'f/h', names: ['Food', 'Dried herbs'], isLeaf: true },
    { path: 'h/l', names: ['Home', 'Torches'], words: 'flashlight', isLeaf: true },
  ];
  const one = (names: string[], titles: string[] = []): OwnCategory => ({ path: names.join('/'), names, titles });
  const only = (own: OwnCategory, more: Partial<Parameters<typeof suggestCategories>[0]> = {}) =>
    suggestCategories({
      target: seeds,
      own: [own],
      chosen: [],
      language: 'en-GB',
      leafOnly: true,
      most: 3,
      ...more,
    }).get(own.path) ?? [];

  it('say in words why, and how likely they are', () => {
    const [best, ...others] = only(one(['Seeds', 'Herbs'], ['Basil seeds', 'Mint herb seeds']));
    expect(best?.path).toBe('g/h');
    expect(best?.evidence.join('; ')).toMatch(/its name: herb.*titles say/i);
    expect([best, ...others].reduce((sum, each) => sum + (each?.p ?? 0), 0)).toBeLessThanOrEqual(1.000001);
  });

  it('know words that mean the same, where there is a lexicon, and other words of a category', () => {
    const flashlights = one(['Camping', 'Flashlights']);
    expect(only(flashlights)[0]?.path).toBe('h/l');
    const target = seeds.map(({ words: _, ...rest }) => rest);
    expect(only(flashlights, { target })).toEqual([]);
    const [best] = only(flashlights, { target, lexicon });
    expect(best?.path).toBe('h/l');
    expect(best?.evidence[0]).toContain('flashlights ~ torches');
  });

  it('know what a thing is told by and what is done with it, and dictionary words in any form and any spelling', () => {
    const leaves = ['Eye protection', 'Sanding machines', 'Diving suits', "Cook's knives", 'Cooking books'];
    const target = leaves.map((name) => ({ path: name, names: ['Work', name], isLeaf: true }));
    const firstOf = (name: string) => only(one(['Shop', name]), { target, lexicon })[0]?.path;
    expect(firstOf('Goggles')).toBe('Eye protection');
    expect(firstOf('Sanders')).toBe('Sanding machines');
    expect(firstOf('Wetsuits')).toBe('Diving suits');
    expect(firstOf("Chefs' choppers")).toBe("Cook's knives");
  });

  it('are leaves where the channel takes only those, and any where it takes all', () => {
    expect(only(one(['Garden'])).map(({ path }) => path)).not.toContain('g');
    expect(only(one(['Garden']), { leafOnly: false })[0]?.path).toBe('g');
  });

  it('cut compounds where both parts are words', () => {
    const target: TargetCategory[] = [
      { path: 'm', names: ['Küche', 'Messer'], isLeaf: true },
      { path: 'b', names: ['Küche', 'Bretter'], isLeaf: true },
      { path: 't', names: ['Küche', 'Töpfe'], isLeaf: true },
    ];
    expect(only(one(['Haushalt', 'Küchenmesser']), { target, language: 'de' })[0]?.path).toBe('m');
    expect(only(one(['Haushalt', 'Schneidbretter']), { target, language: 'de-AT' })[0]?.path).toBe('b');
  });

  it('are none where nothing tells, and of nothing', () => {
    expect(only(one(['Velvet', 'Ribbons']))).toEqual([]);
    expect(only(one([]))).toEqual([]);
    expect(only(one(['', '  ']), { target: [] })).toEqual([]);
    expect(only(one(['花', '草'], ['🌱', 'x'.repeat(10_000)]), { language: 'zh' })).toEqual([]);
    expect(only(one(['__proto__', 'constructor', 'toString']))).toEqual([]);
  });

  it('take what a person chose as certain, whatever the words say', () => {
    const own = [one(['Seeds', 'Herbs']), one(['Seeds', 'Salad leaves'])];
    const found = suggestCategories({
      ...{ target: seeds, own, language: 'en', leafOnly: true, most: 3 },
      chosen: [
        { own: 'Seeds/Herbs', target: 'f/h' },
        { own: 'Seeds/Salad leaves', target: 'gone/long ago' },
      ],
    });
    expect(found.get('Seeds/Herbs')?.[0]).toMatchObject({ path: 'f/h', p: 1 });
    expect(found.get('Seeds/Salad leaves')?.[0]?.path).toBe('g/s');
  });
});
