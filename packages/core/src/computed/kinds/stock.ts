/** How many pieces of it stand in our own warehouses; of a family, of all its variants. */
import { counted } from '../counted.js';

export const stock = counted('stock', 'pieces', ({ stock: value }) => ({
  value,
  trace: 'counted in all our warehouses',
}));
