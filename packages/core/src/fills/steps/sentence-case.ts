import { z } from 'zod';
import { defineStep } from './model.js';

export const sentenceStep = defineStep({
  name: 'sentence-case',
  title: 'Words in capitals small',
  fields: [],
  begin: () => ({ do: 'sentence-case' as const }),
  label: () => 'Write words in capitals small',
  schema: z.strictObject({ do: z.literal('sentence-case') }),
  offer: () => ({ do: 'sentence-case' as const }),
  say: () => 'words in capitals written small',
  compile: () => sentenceCase,
  examples: [{ step: { do: 'sentence-case' }, from: 'STURDY POT, UK', to: 'Sturdy POT, UK' }],
});

/** Words in capitals become ordinary ones; the first letter stays large. Short codes such as LED and UK are kept. */
export function sentenceCase(text: string): string {
  const lowered = text.replace(/\p{Lu}{4,}/gu, (word) => word.toLowerCase());
  return lowered.charAt(0).toUpperCase() + lowered.slice(1);
}
