/** What a column can become, as choices in words. */
import type { AttributeAnswer, BatchAnswer, Company } from '@velvet-shelf/contract';
import type { ColumnTarget } from '@velvet-shelf/core/intake';

export interface Choice {
  label: string;
  group: string;
  target: ColumnTarget;
}

export const ignored: Choice = { label: 'Ignore this column', group: 'The row', target: { to: 'ignore' } };

const rowChoices = (currencies: readonly string[]): Choice[] => [
  ignored,
  { label: 'Article number', group: 'The row', target: { to: 'key' } },
  { label: 'Family', group: 'The row', target: { to: 'family' } },
  { label: 'Options', group: 'The row', target: { to: 'options' } },
  { label: 'Bought from', group: 'The row', target: { to: 'boughtFrom' } },
  { label: 'Their number', group: 'The row', target: { to: 'theirNumber' } },
  { label: 'Stock', group: 'Price and stock', target: { to: 'stock' } },
  ...currencies.flatMap((currency): Choice[] => [
    { label: `Price ${currency}`, group: 'Price and stock', target: { to: 'price', kind: 'regular', currency } },
    { label: `Sale price ${currency}`, group: 'Price and stock', target: { to: 'price', kind: 'sale', currency } },
  ]),
  { label: 'Sale starts', group: 'Price and stock', target: { to: 'saleFrom' } },
  { label: 'Sale ends', group: 'Price and stock', target: { to: 'saleTo' } },
];

type Listed = Pick<AttributeAnswer, 'key' | 'label' | 'group' | 'perLanguage'>;

/** `makes`: attributes that come with the batch can be chosen as if they were there. */
export function choicesFor(
  attributes: readonly Listed[],
  { languages, currencies }: Company,
  makes: BatchAnswer['makes'],
): Choice[] {
  return [
    ...rowChoices(currencies),
    ...[...attributes, ...makes.attributes.filter(({ key }) => !attributes.some((each) => each.key === key))]
      .filter((attribute) => attribute.group !== 'Sources')
      .flatMap((attribute): Choice[] =>
        attribute.perLanguage
          ? languages.map((language) => ({
              label: `${attribute.label}, ${language}`,
              group: attribute.group,
              target: { to: 'attribute', attribute: attribute.key, language },
            }))
          : [{ label: attribute.label, group: attribute.group, target: { to: 'attribute', attribute: attribute.key } }],
      ),
  ];
}

export const sameTarget = (a: ColumnTarget, b: ColumnTarget) =>
  a.to === b.to &&
  (a.to !== 'attribute' ||
    (b.to === 'attribute' && a.attribute === b.attribute && (a.language ?? '') === (b.language ?? ''))) &&
  (a.to !== 'price' || (b.to === 'price' && a.kind === b.kind && a.currency === b.currency));

/** How the cells are read, where that is more than taking them as they are. */
export function sayReading(target: ColumnTarget): string[] {
  if (target.to === 'price') return target.currencyFrom ? [`currency from “${target.currencyFrom}”`] : [];
  if (target.to !== 'attribute') return [];
  return [
    ...(target.unit ? [`figures in ${target.unit}`] : []),
    ...(target.unitFrom ? [`unit from “${target.unitFrom}”`] : []),
    ...(target.currencyFrom
      ? [`currency from “${target.currencyFrom}”`]
      : target.currency
        ? [`amounts in ${target.currency}`]
        : []),
    ...(target.part ? [`part ${target.part} of the cell`] : []),
    ...(target.join === undefined ? [] : [`put after what is there, with “${target.join}” between`]),
    ...(target.values && Object.keys(target.values).length > 0
      ? [`${Object.keys(target.values).length} words translated`]
      : []),
  ];
}
