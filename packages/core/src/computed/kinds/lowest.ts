/** The lowest that any source or person says: the lowest cost, for one. */
import { extreme } from '../extreme.js';

export const lowest = extreme('lowest');
