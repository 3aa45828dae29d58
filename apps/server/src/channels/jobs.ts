/** What channels have worked out in a thread while a request waits. */
import type { CategorySuggestion, SuggestedValue, WordToTranslate } from '@velvet-shelf/contract';
import { defineCall } from '../jobs/define.js';

export const suggestTogether = defineCall<{ place: number }, Record<string, CategorySuggestion[]>>({
  name: 'suggest-categories',
  run: async ({ db }, { place }) => (await import('./suggestions.js')).suggest(db, place),
});

export const suggestValue = defineCall<
  { place: number; attribute: string; value: string; of?: string | undefined },
  SuggestedValue[]
>({
  name: 'suggest-value',
  run: async ({ db }, asked) => (await import('./translations.js')).suggestValue(db, asked),
});

export const wordsToTranslate = defineCall<{ place: number; attribute: string; from: string }, WordToTranslate[]>({
  name: 'words-to-translate',
  run: async ({ db }, asked) => (await import('./translations.js')).wordsToTranslate(db, asked),
});

export const channelCalls = [suggestTogether, suggestValue, wordsToTranslate];
