/** What a value was worked out from, in words. */
import { plainValue, sayLabel } from '../values/index.js';
import type { Input } from './model.js';

export const sayInputs = (inputs: readonly Input[], between: string): string =>
  inputs
    .map(
      ({ attribute, value }) =>
        `${sayLabel(attribute.label)} ${value === undefined ? '' : plainValue(value, attribute)}`,
    )
    .join(between);
