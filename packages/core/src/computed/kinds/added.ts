/** The sum of several of one kind: two lengths, a price and a surcharge. */
import { together } from '../together.js';

export const added = together('added', ' + ', (sum, size) => sum.plus(size));
