/** Completes what a person chose of columns: choosing a column oneself loses nothing of what is known of its figures. */
import type { Attribute } from '../values/index.js';
import { figuresOf } from './beside.js';
import { type Column, describe } from './column.js';
import type { ColumnMap, ColumnTarget } from './mapping.js';
import type { SuggestSetup } from './suggest.js';

type FigureTarget = Extract<ColumnTarget, { to: 'attribute' | 'price' }>;

/** What a person chose, with what the header or a neighbour says of units and currencies where the choice says nothing. */
export function completeMap(map: ColumnMap, setup: SuggestSetup): ColumnMap {
  return mapFigures(map, setup, (target, { type, column, columns }) => {
    const said = target.to === 'attribute' ? [target.unit, target.unitFrom] : [];
    if (!column || [...said, target.currency, target.currencyFrom].some((row) => row !== undefined)) return target;
    return { ...target, ...figuresOf(column, columns, { type }, undefined) };
  });
}

/** Amounts whose column and neighbours name no currency are in the one a person says the file is in. */
export function withFileCurrency(map: ColumnMap, setup: SuggestSetup, currency: string | undefined): ColumnMap {
  return mapFigures(map, setup, (target, { type, column }) =>
    type !== 'money' || column?.currency || target.currencyFrom !== undefined ? target : { ...target, currency },
  );
}

/** The same map with other targets for columns that feed attributes or prices. */
function mapFigures(
  map: ColumnMap,
  setup: SuggestSetup,
  change: (
    target: FigureTarget,
    from: { type: Attribute['type']; column: Column | undefined; columns: readonly Column[] },
  ) => FigureTarget,
): ColumnMap {
  const columns = setup.columns.map((name, i) => describe(name, i, setup));
  return map.map((entry) => {
    const { target } = entry;
    if (target.to !== 'price' && target.to !== 'attribute') return entry;
    const type = target.to === 'price' ? 'money' : setup.dictionary.get(target.attribute)?.type;
    if (type === undefined) return entry;
    const column = columns.find(({ name }) => name === entry.column);
    return { ...entry, target: change(target, { type, column, columns }) };
  });
}
