/** Prices typed into cells, one currency and kind at a time. */
import type { EditField } from '../catalog/fields.js';
import { badRequest, stale } from '../http/problem.js';
import { refreshOffers } from './columns.js';
import { type Price, type WantedPrice, setPrices } from './prices.js';

const labels: Record<Price['kind'], string> = { regular: 'price', sale: 'sale price' };

/** The field that sets prices of this kind; an empty text takes the price away. */
export const editPrice = (kind: Price['kind']): EditField<WantedPrice> => ({
  reader:
    async () =>
    ({ productId, product, edit, currency: own }) => {
      const currency = edit.language ?? own;
      const offer = product.offers[currency];
      const current = (kind === 'regular' ? offer?.regular : offer?.sale?.amount) ?? null;
      if (current !== edit.madeAgainst)
        throw stale(`The price is now ${current ?? 'empty'}`, {
          current,
          yours: edit.text ?? null,
          attribute: edit.attribute,
        });
      const text = (edit.text ?? '').trim();
      if (text !== '' && !/^\d+(\.\d{1,4})?$/.test(text)) throw badRequest(`“${text}” is not a price; write 12.50`);
      return { label: labels[kind], wanted: { product: productId, currency, kind, amount: text === '' ? null : text } };
    },
  write: async (tx, wanted) => {
    const changes = await setPrices(tx, wanted);
    await refreshOffers(tx, [...new Set(wanted.map(({ product }) => product))]);
    return changes.map(({ product, field, before, after }) => ({
      kind: 'product',
      id: product,
      delta: { [field]: [before, after] },
    }));
  },
});
