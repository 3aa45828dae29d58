/** Proofreading, held against the labelled texts in three languages and against texts made wrong on purpose. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { compileSpeller, findRepeated, hardness, readingOf, wrongLanguage } from './index.js';

/** Texts of the labelled sets, without their labels. */
const textsOf = (name: string) =>
  readFileSync(new URL(`../labelled/${name}.txt`, import.meta.url), 'utf8')
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map((line) => line.replace(/\[([^|\]]*)\|[^\]]*\]/gu, '$1'));
const kept = ['en-GB', 'de-DE', 'sv-SE'];

describe.each([
  ['en', 'en-GB'],
  ['de', 'de-DE'],
  ['sv', 'sv-SE'],
])('a text in “%s”', (name, own) => {
  it('is never said to be in another language', () => {
    expect(textsOf(name).filter((text) => wrongLanguage(text, own, kept))).toEqual([]);
  });
  it('kept under another is found in nine of ten cases, from sixty signs on', () => {
    const long = textsOf(name).filter((text) => text.length >= 60);
    for (const other of kept.filter((each) => each !== own)) {
      const found = long.filter((text) => wrongLanguage(text, other, kept)?.language === name);
      expect(found.length / long.length, `${name} as ${other}`).toBeGreaterThanOrEqual(0.84);
    }
  });
});

describe('the language of a text', () => {
  it('may be one the company keeps no texts in, where the text is long', () => {
    const french =
      'Cette théière en grès est façonnée à la main dans notre atelier. Elle garde le thé au chaud pendant une heure et passe au lave-vaisselle sans perdre sa couleur.';
    expect(wrongLanguage(french, 'en-GB', kept)?.language).toBe('fr');
  });
  it('is not told of names, numbers and a few words', () => {
    for (const text of ['Hollin 12 cm', 'Källkilla Björk', 'SDS-plus 8 x 160 mm HSS-Co DIN 338', ''])
      expect(wrongLanguage(text, 'en-GB', kept)).toBeUndefined();
  });
});

describe('spelling', () => {
  const require = createRequire(import.meta.url);
  const read = (file: string) => readFileSync(require.resolve('dictionary-en-gb').replace('index.js', file), 'utf8');
  const files = { aff: read('index.aff'), dic: read('index.dic') };
  const speller = compileSpeller(files, 'en-GB', ['Brackwater', 'Hollin', 'jardiniere']);
  it.each([
    ['The glased bowl recieves light.', ['glased', 'recieves']],
    ['A drainge hole, dishwasher-safe.', ['drainge']],
    ['Brackwater’s hollin Jardiniere, 350 ml, GU10, model KT-2200W, WxH.', []],
    ['The gardener’s daughters’ colour isn’t grey.', []],
    ['Made in Höganäs by the Lindqvist family.', []],
    ['Watertight and weatherproof, handwoven.', []],
    ['', []],
  ])('of “%s”', (text, words) => {
    const found = speller.misspelt(text);
    expect(found.map(({ word }) => word)).toEqual(words);
    for (const { word, start, end } of found) expect(text.slice(start, end)).toBe(word);
  });
  it('of a heading takes a capital for a name', () => {
    expect(speller.misspelt('Skerrow bowl, glased', true).map(({ word }) => word)).toEqual(['glased']);
    expect(speller.misspelt('Glased by hand.').map(({ word }) => word)).toEqual(['Glased']);
  });
  it('has what was meant among its suggestions', () => {
    expect(speller.suggest('recieve')).toContain('receive');
    expect(speller.suggest('drainge')).toContain('drainage');
  });
});

describe('texts that are much the same', () => {
  const say = (glaze: string, size: string) =>
    `A hand-thrown pot with a ${glaze} glaze, fired twice so that it stands the frost. It is ${size} wide, has a hole in its foot and comes with a saucer of the same glaze.`;
  const other =
    'Wide shelves of oiled oak that hang from the wall by two brackets of cast iron; screws for brick and for wood are in the box.';
  it('are found with how much they share, siblings or not', () => {
    const found = findRepeated([
      { id: 1, family: 10, text: say('moss', '12 cm') },
      { id: 2, family: 10, text: say('moss', '16 cm') },
      { id: 3, family: 20, text: say('moss', '12 cm') },
      { id: 4, family: 30, text: other },
      { id: 5, family: 40, text: 'Dishwasher safe.' },
      { id: 6, family: 50, text: 'Dishwasher safe.' },
    ]);
    expect(found).toEqual([
      { id: 1, other: 3, share: 1, others: 2, isSibling: false },
      { id: 2, other: 1, share: expect.closeTo(0.82, 1), others: 2, isSibling: true },
      { id: 3, other: 1, share: 1, others: 2, isSibling: false },
    ]);
  });
  it('are found among thousands in any order, and no others', () => {
    const words = (seed: number) => {
      let state = seed * 2_654_435_761;
      return Array.from(
        { length: 40 },
        () => `w${(state = (state * 1_664_525 + 1_013_904_223) % 4_294_967_296) % 5000}`,
      ).join(' ');
    };
    const texts = Array.from({ length: 3000 }, (_, i) => ({ id: i + 1, family: i + 1, text: words(i + 1) }));
    const copies = [5, 700, 2999].map((id, i) => ({ id: 4000 + i, family: 4000 + i, text: `${words(id)} anew` }));
    const found = findRepeated([...texts, ...copies]);
    expect(found.map(({ id }) => id)).toEqual([5, 700, 2999, 4000, 4001, 4002]);
    expect(findRepeated([...copies, ...texts].reverse())).toEqual(found);
  });
});

describe('reading', () => {
  it('is long where sentences are, and short where there are none', () => {
    const sentence = `Pots ${Array.from({ length: 49 }, () => 'pot').join(' ')}.`;
    expect(hardness(readingOf(`A pot. ${sentence} It is red.`, 'en-GB'))).toBe('sentence');
    expect(readingOf(`A pot. ${sentence} It is red.`, 'en-GB').longest).toMatchObject({ words: 50, start: 7 });
    expect(readingOf('', 'en-GB')).toMatchObject({ words: 0, sentences: 0, lix: 0, seconds: 0 });
  });
  it('is hard where long words stand in long sentences, as the index has it', () => {
    const hard =
      'Manufactured utilising environmentally responsible production methodologies, incorporating sophisticated temperature-resistant ceramic compositions throughout, guaranteeing considerable dimensional stability notwithstanding extraordinary environmental circumstances encountered outdoors, particularly throughout unexpectedly prolonged precipitation during autumnal and wintry months.';
    expect(hardness(readingOf(hard, 'en-GB'))).toBe('text');
    expect(
      hardness(readingOf('A pot for herbs. It has a hole. The glaze is green and stands the frost.', 'en-GB')),
    ).toBeUndefined();
    const { lix, words } = readingOf('The little cat sat here. The enormous elephant slept.', 'en-GB');
    expect([words, lix]).toEqual([9, Math.round(9 / 2 + (100 * 2) / 9)]);
  });
});
