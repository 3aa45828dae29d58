import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type ItemCheck, exampleMoney, rulesOf } from './model.js';

const settings = z.strictObject({ price: z.string(), sale: z.string() });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'sale-price', settings);

export const salePrice: ItemCheck = {
  meta: {
    id: 'sale-price',
    severity: 'blocker',
    describes: 'A sale price is below the regular price.',
    fix: 'catalog',
    fault: 'is not below the price',
    say: () => 'The sale price is not below the price',
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ price, sale }) => [price, sale]),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    return (item) => {
      const [price, sale] = [item[rule.price], item[rule.sale]];
      if (typeof price !== 'object' || price.kind !== 'money') return undefined;
      if (typeof sale !== 'object' || sale.kind !== 'money' || sale.currency !== price.currency) return undefined;
      return sale.minor >= price.minor ? { attribute: rule.sale, params: {} } : undefined;
    };
  },
  examples: {
    rules: [{ check: 'sale-price', price: 'price', sale: 'sale' }],
    pass: [{ price: exampleMoney(1000), sale: exampleMoney(800) }, { price: exampleMoney(1000) }],
    fail: [
      { price: exampleMoney(1000), sale: exampleMoney(1000) },
      { price: exampleMoney(1000), sale: exampleMoney(1200) },
    ],
  },
};
