/** What follows from other values: units and currencies, what is missing, circles, and what nobody can work out. */
import { describe, expect, it } from 'vitest';
import { type SourceRecord, resolveUnit } from '../claims/index.js';
import type { Attribute, Computation, Value } from '../values/index.js';
import { makeMeasure, plainValue } from '../values/index.js';
import { computedSteps, objectionTo } from './index.js';

const base = { many: false, perLanguage: false, level: 'variant', group: 'Own' } as const;
const length = (key: string): Attribute => ({ ...base, key, label: key, type: 'measure', dimension: 'length' });
const measured = (key: string, dimension: Attribute['dimension'], computed?: Computation): Attribute => ({
  ...base,
  key,
  label: key,
  type: 'measure',
  ...(dimension ? { dimension } : {}),
  ...(computed ? { computed } : {}),
});
const money = (key: string, computed?: Computation): Attribute => ({
  ...base,
  key,
  label: key,
  type: 'money',
  ...(computed ? { computed } : {}),
});
const number = (key: string, computed?: Computation): Attribute => ({
  ...base,
  key,
  label: key,
  type: 'number',
  ...(computed ? { computed } : {}),
});

const sides = [length('width'), length('height'), length('depth')];
const dictionaryOf = (...list: Attribute[]) => new Map(list.map((attribute) => [attribute.key, attribute]));

const source = (id: number, supplier: string, values: Record<string, Value>): SourceRecord => ({
  id,
  supplier,
  rank: id,
  at: String(id),
  values,
  options: [],
});

/** What one variant of so many holds of an attribute, with how it came about. */
function held(
  key: string,
  dictionary: Map<string, Attribute>,
  records: SourceRecord[],
  siblings = 0,
): [text: string | undefined, why: string | undefined] {
  const others = Array.from({ length: siblings }, (_, i) => ({ id: 100 + i, stock: 1, records: [], edits: [] }));
  const unit = resolveUnit(
    { familyEdits: [], variants: [{ id: 1, stock: 7, records, edits: [] }, ...others] },
    dictionary,
    new Map(),
  );
  const slot = unit.variants[0]?.slots.get(key);
  const attribute = dictionary.get(key);
  return [attribute && slot?.value !== undefined ? plainValue(slot.value, attribute) : undefined, slot?.why];
}

describe('a product of several', () => {
  const volume = (unit: string) =>
    measured('volume', 'volume', { kind: 'multiplied', of: ['width', 'height', 'depth'], unit });
  const box = { width: makeMeasure('30', 'cm'), height: makeMeasure('8', 'in'), depth: makeMeasure('150', 'mm') };
  it.each([
    ['l', '9.144 L'],
    ['m3', '0.009144 m³'],
    ['cm3', '9144 cm³'],
  ])('is given in %s, whatever units its sides are in', (unit, text) => {
    const [value, why] = held('volume', dictionaryOf(...sides, volume(unit)), [source(1, 'A', box)]);
    expect(value).toBe(text);
    expect(why).toBe('width 30 cm × height 8 in × depth 150 mm');
  });
  it('is missing where a side is, and says which', () => {
    const open = { width: box.width, height: box.height };
    expect(held('volume', dictionaryOf(...sides, volume('l')), [source(1, 'A', open)])).toEqual([
      undefined,
      'depth is missing',
    ]);
  });
  it('leaves what a source or a person says', () => {
    const said = { ...box, volume: makeMeasure('9', 'l') };
    expect(held('volume', dictionaryOf(...sides, volume('l')), [source(1, 'A', said)])[0]).toBe('9 L');
  });
  it('is money where one is money, exact and rounded to what there is of that currency', () => {
    const dictionary = dictionaryOf(
      money('piece'),
      number('pieces'),
      money('pack', { kind: 'multiplied', of: ['piece', 'pieces'] }),
    );
    const pack = (amount: string, currency: string, pieces: number) =>
      held('pack', dictionary, [source(1, 'A', { piece: { amount, currency }, pieces })])[0];
    expect(pack('0.1', 'EUR', 3)).toBe('0.30 EUR');
    expect(pack('12.345', 'JPY', 2)).toBe('25 JPY');
  });
  it('knows volts by amperes for watts, and watts by hours for watt hours', () => {
    const dictionary = dictionaryOf(
      measured('voltage', 'voltage'),
      measured('current', 'current'),
      measured('time', 'time'),
      measured('power', 'power', { kind: 'multiplied', of: ['voltage', 'current'], unit: 'w' }),
      measured('energy', 'energy', { kind: 'multiplied', of: ['power', 'time'], unit: 'wh' }),
    );
    const record = source(1, 'A', {
      voltage: makeMeasure('230', 'v'),
      current: makeMeasure('500', 'ma'),
      time: makeMeasure('2', 'h'),
    });
    expect(held('power', dictionary, [record])[0]).toBe('115 W');
    expect(held('energy', dictionary, [record])[0]).toBe('230 Wh');
  });
});

describe('other kinds', () => {
  it('divide, and not by nought', () => {
    const dictionary = dictionaryOf(
      measured('weight', 'mass'),
      number('pieces'),
      measured('each', 'mass', { kind: 'divided', of: ['weight', 'pieces'], unit: 'g' }),
    );
    const each = (pieces: number) =>
      held('each', dictionary, [source(1, 'A', { weight: makeMeasure('1.2', 'kg'), pieces })]);
    expect(each(8)[0]).toBe('150 g');
    expect(each(0)).toEqual([undefined, 'pieces is nought']);
  });
  it('divide money exactly: what is half a cent goes up', () => {
    const dictionary = dictionaryOf(
      money('pack'),
      number('pieces'),
      money('piece', { kind: 'divided', of: ['pack', 'pieces'] }),
    );
    const piece = (amount: string, pieces: number) =>
      held('piece', dictionary, [source(1, 'A', { pack: { amount, currency: 'EUR' }, pieces })])[0];
    expect([piece('0.045', 3), piece('10', 3)]).toEqual(['0.02 EUR', '3.33 EUR']);
  });
  it('add and take away what is of one kind', () => {
    const dictionary = dictionaryOf(
      money('price'),
      money('freight'),
      money('landed', { kind: 'added', of: ['price', 'freight'] }),
      money('left', { kind: 'subtracted', of: ['price', 'freight'] }),
    );
    const both = { price: { amount: '0.30', currency: 'EUR' }, freight: { amount: '0.10', currency: 'EUR' } };
    expect(held('landed', dictionary, [source(1, 'A', both)])[0]).toBe('0.40 EUR');
    expect(held('left', dictionary, [source(1, 'A', both)])[0]).toBe('0.20 EUR');
    const mixed = { ...both, freight: { amount: '1', currency: 'SEK' } };
    expect(held('landed', dictionary, [source(1, 'A', mixed)])).toEqual([
      undefined,
      'amounts in EUR and SEK cannot be put together',
    ]);
  });
  it('find the lowest of all that is said, with who says it', () => {
    const cost = (unit?: string) =>
      dictionaryOf(money('cost'), money('lowest', { kind: 'lowest', of: ['cost'], ...(unit ? { unit } : {}) }));
    const records = [
      source(1, 'Northfell', { cost: { amount: '10', currency: 'EUR' } }),
      source(2, 'Southmere', { cost: { amount: '9.5', currency: 'EUR' } }),
      source(3, 'Overseas', { cost: { amount: '4', currency: 'USD' } }),
    ];
    expect(held('lowest', cost('EUR'), records)).toEqual(['9.50 EUR', 'lowest of 2 said: Southmere, cost 9.5 EUR']);
    expect(held('lowest', cost(), records)[0]).toBeUndefined();
    expect(held('lowest', cost('GBP'), records)[1]).toBe('nobody says cost in GBP');
  });
  it('count variants', () => {
    const dictionary = dictionaryOf(number('siblings', { kind: 'variants', of: [] }));
    expect(held('siblings', dictionary, [source(1, 'A', {})], 4)[0]).toBe('5');
  });
  it('count pieces, of a family those of all its variants, and what follows from them', () => {
    const dictionary = dictionaryOf(
      number('pieces', { kind: 'stock', of: [] }),
      number('packed in'),
      number('packs', { kind: 'divided', of: ['pieces', 'packed in'] }),
    );
    const record = source(1, 'A', { 'packed in': 2 });
    expect(held('pieces', dictionary, [record], 4)).toEqual(['7', 'counted in all our warehouses']);
    expect(held('packs', dictionary, [record])[0]).toBe('3.5');
    const variants = [7, 0, 5].map((stock, i) => ({ id: i, stock, records: [], edits: [] }));
    const { family } = resolveUnit({ familyEdits: [], variants }, dictionary, new Map());
    expect(family.get('pieces')?.value).toBe(12);
  });
});

describe('what cannot be', () => {
  const objection = (attribute: Attribute, ...others: Attribute[]) =>
    attribute.computed && objectionTo(attribute.computed, attribute, dictionaryOf(...others, attribute));
  it('is said', () => {
    const area = measured('area', 'area', { kind: 'multiplied', of: ['width', 'height', 'depth'], unit: 'm2' });
    expect(objection(area, ...sides)).toBe('The product of these is no area');
    const temperature = measured('heat', 'temperature');
    const hot = number('hot', { kind: 'divided', of: ['heat', 'heat'] });
    expect(objection(hot, temperature)).toBe('heat cannot be divided');
    expect(objection(number('x', { kind: 'added', of: ['y'] }), number('y'))).toMatch(/at least 2/);
    expect(objection(number('x', { kind: 'added', of: ['y', 'gone'] }), number('y'))).toMatch(/no attribute “gone”/);
    const noUnit = measured('v', 'volume', { kind: 'multiplied', of: ['width', 'height', 'depth'], unit: 'kg' });
    expect(objection(noUnit, ...sides)).toBe('Choose the unit it is given in');
  });
  it('goes round in a circle, however long, and is then worked out by nobody', () => {
    const a = number('a', { kind: 'added', of: ['c', 'd'] });
    const b = number('b', { kind: 'added', of: ['a', 'd'] });
    const c = number('c', { kind: 'added', of: ['b', 'd'] });
    expect(objection(a, b, c, number('d'))).toBe('c follows from a itself');
    expect(computedSteps(dictionaryOf(a, b, c, number('d')))).toEqual([]);
  });
  it('is not tried', () => {
    const odd = number('odd', { kind: 'guessed', of: [] });
    expect(computedSteps(dictionaryOf(odd))).toEqual([]);
  });
});
