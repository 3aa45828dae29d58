/** The first less the others, all of one kind: what is left of a price, of a length. */
import { together } from '../together.js';

export const subtracted = together('subtracted', ' − ', (sum, size) => sum.minus(size));
