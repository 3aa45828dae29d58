/** Stock typed into a cell: a correction of our own figure, as a movement. */
import type { EditField } from '../catalog/fields.js';
import { badRequest, notFound, stale } from '../http/problem.js';
import { refreshOffers } from '../prices/columns.js';
import { bookMovements, findWarehouse } from './ledger.js';

export const editStock: EditField = async (tx, { productId, product, edit, actionId }) => {
  if (!/^-?\d+$/.test(edit.text ?? '')) throw badRequest(`“${edit.text}” is not a whole number of pieces`);
  if (String(product.stock) !== edit.madeAgainst)
    throw stale(`Stock is now ${product.stock}`, {
      current: String(product.stock),
      yours: edit.text ?? null,
      attribute: edit.attribute,
    });
  const figure = Number(edit.text);
  const warehouse = await findWarehouse(tx);
  if (warehouse === undefined) throw notFound('warehouse to count in');
  await bookMovements(tx, [{ product: productId, delta: figure - product.stock }], {
    reason: 'correction',
    actionId,
    warehouse,
  });
  await refreshOffers(tx, [productId]);
  return { label: 'stock', delta: { stock: [product.stock, figure] } };
};
