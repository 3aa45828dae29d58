/** How many variants its family has. */
import { counted } from '../counted.js';

export const variants = counted('variants', 'variants', ({ variants: value }) => ({
  value,
  trace: value === 1 ? 'a single, or the only variant' : `${value} variants in the family`,
}));
