import { z } from 'zod';
import type { ReadFormat } from './model.js';
import { encoding, style, variantPath } from './settings.js';

function isObject(text: string): boolean {
  try {
    return typeof JSON.parse(text) === 'object';
  } catch {
    return false;
  }
}

export const jsonl = {
  name: 'jsonl',
  label: 'JSON Lines',
  schema: z.strictObject({ format: z.literal('jsonl'), encoding, variantPath, ...style }),
  /** One line alone may be a whole document: only where a second item follows it are there items line by line. */
  claims(start: string) {
    if (!start.startsWith('{')) return undefined;
    const [first = '', second = ''] = start.split(/\r\n|\n|\r/).filter((line) => line.trim() !== '');
    return isObject(first) && second.trimStart().startsWith('{') ? 'each line is a JSON object of its own' : undefined;
  },
} as const satisfies ReadFormat;
