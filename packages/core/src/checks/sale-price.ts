import type { ItemCheck } from './model.js';

export const salePrice: ItemCheck = {
  meta: {
    id: 'sale-price',
    severity: 'blocker',
    describes: 'A sale price is below the regular price.',
    fix: 'catalog',
    fault: 'is not below the price',
    say: () => 'The sale price is not below the price',
  },
  compile(rulebook) {
    const rule = rulebook.rules.find((rule) => rule.check === 'sale-price');
    if (rule?.check !== 'sale-price') return undefined;
    return (item) => {
      const [price, sale] = [item[rule.price], item[rule.sale]];
      return typeof price === 'number' && typeof sale === 'number' && sale >= price
        ? { attribute: rule.sale, params: {} }
        : undefined;
    };
  },
  examples: {
    rules: [{ check: 'sale-price', price: 'price', sale: 'sale' }],
    pass: [{ price: 1000, sale: 800 }, { price: 1000 }],
    fail: [
      { price: 1000, sale: 1000 },
      { price: 1000, sale: 1200 },
    ],
  },
};
