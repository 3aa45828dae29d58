/** Stock typed into cells: a correction of our own figure, as a movement. */
import type { EditField } from '../catalog/fields.js';
import { badRequest, notFound, stale } from '../http/problem.js';
import { refreshOffers } from '../prices/columns.js';
import { bookMovements, findWarehouse } from './ledger.js';

export const editStock: EditField<{ product: number; before: number; after: number }> = {
  reader:
    async () =>
    ({ productId, product, edit }) => {
      if (!/^-?\d+$/.test(edit.text ?? '')) throw badRequest(`“${edit.text ?? ''}” is not a whole number of pieces`);
      if (String(product.stock) !== edit.madeAgainst)
        throw stale(`Stock is now ${product.stock}`, {
          current: String(product.stock),
          yours: edit.text ?? null,
          attribute: edit.attribute,
        });
      return { label: 'stock', wanted: { product: productId, before: product.stock, after: Number(edit.text) } };
    },
  write: async (tx, wanted, actionId) => {
    const warehouse = await findWarehouse(tx);
    if (warehouse === undefined) throw notFound('warehouse to count in');
    await bookMovements(
      tx,
      wanted.map(({ product, before, after }) => ({ product, delta: after - before })),
      { reason: 'correction', actionId, warehouse },
    );
    await refreshOffers(
      tx,
      wanted.map(({ product }) => product),
    );
    return wanted.map(({ product, before, after }) => ({
      kind: 'product',
      id: product,
      delta: { stock: [before, after] },
    }));
  },
};
