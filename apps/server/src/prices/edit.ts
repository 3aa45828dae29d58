/** Prices typed into a cell, one currency and kind at a time. */
import { loadCompany } from '../company/settings.js';
import type { EditField } from '../catalog/fields.js';
import { badRequest, stale } from '../http/problem.js';
import { refreshOffers } from './columns.js';
import { type Price, setPrice } from './prices.js';

const labels: Record<Price['kind'], string> = { regular: 'price', sale: 'sale price' };

/** The field that sets prices of this kind; an empty text takes the price away. */
export const editPrice =
  (kind: Price['kind']): EditField =>
  async (tx, { productId, product, edit }) => {
    const currency = edit.language ?? (await loadCompany(tx)).currency;
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
    const delta = await setPrice(tx, { product: productId, currency, kind }, text === '' ? null : text);
    await refreshOffers(tx, [productId]);
    return { label: labels[kind], delta };
  };
