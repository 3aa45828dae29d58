import { z } from 'zod';
import { defineStep } from './model.js';

export const trimStep = defineStep({
  name: 'trim-at-word',
  title: 'Trim at a word',
  fields: [{ name: 'length', label: 'Characters', kind: 'number' }],
  begin: () => ({ do: 'trim-at-word' as const }),
  label: ({ maxLength }) => `Trim at a word to ${maxLength} characters`,
  schema: z.strictObject({ do: z.literal('trim-at-word'), length: z.int().positive() }),
  offer: ({ maxLength }) => (maxLength === undefined ? undefined : { do: 'trim-at-word' as const, length: maxLength }),
  say: ({ length }) => `trimmed at a word to ${length} characters`,
  compile:
    ({ length }) =>
    (text) =>
      trimAtWord(text, length),
  examples: [
    { step: { do: 'trim-at-word', length: 12 }, from: 'A pot for herbs', to: 'A pot for' },
    { step: { do: 'trim-at-word', length: 20 }, from: 'A pot for herbs', to: 'A pot for herbs' },
  ],
});

/** At most `length` characters (code points), cut after a whole word where one ends in the last 40 %. */
export function trimAtWord(text: string, length: number): string {
  if (text.length <= length) return text;
  const points = Array.from(text);
  if (points.length <= length) return text;
  const cut = points.slice(0, length).join('');
  if (/\s/.test(points[length] ?? ' ')) return cut.trimEnd();
  const space = cut.search(/\s\S*$/);
  return (space > cut.length * 0.6 ? cut.slice(0, space) : cut).replace(/[\s,;:–-]+$/, '');
}
