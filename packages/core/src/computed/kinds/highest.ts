/** The highest that any source or person says. */
import { extreme } from '../extreme.js';

export const highest = extreme('highest');
