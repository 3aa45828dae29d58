/** Prices typed into a cell, one currency and kind at a time. */
import { and, eq } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import type { EditField } from '../catalog/fields.js';
import { badRequest, stale } from '../http/problem.js';
import { refreshOffers } from './columns.js';
import { type Price, priceField } from './prices.js';
import * as tables from '../db/schema/index.js';

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
    if (text === '')
      await tx
        .delete(tables.price)
        .where(
          and(eq(tables.price.productId, productId), eq(tables.price.currency, currency), eq(tables.price.kind, kind)),
        );
    else {
      if (!/^\d+(\.\d{1,4})?$/.test(text)) throw badRequest(`“${text}” is not a price; write 12.50`);
      await tx
        .insert(tables.price)
        .values({ productId, currency, kind, amount: text })
        .onConflictDoUpdate({
          target: [tables.price.productId, tables.price.currency, tables.price.kind],
          set: { amount: text },
        });
    }
    await refreshOffers(tx, [productId]);
    const days = kind === 'sale' ? { from: offer?.sale?.from ?? null, to: offer?.sale?.to ?? null } : {};
    const state = (amount: string | null) => (amount === null ? null : { amount, ...days });
    return {
      label: labels[kind],
      delta: { [priceField({ kind, currency })]: [state(current), state(text === '' ? null : text)] },
    };
  };
