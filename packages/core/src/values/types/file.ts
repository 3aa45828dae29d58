import { link } from './link.js';
import type { ValueType } from '../model.js';

/** A file by its name, or by the address it stands at elsewhere. */
export const file: ValueType<string> = link;
