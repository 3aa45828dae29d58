import { z } from 'zod';
import { defineStep, longestSetting } from './model.js';

export const replaceStep = defineStep({
  name: 'replace',
  title: 'Replace',
  fields: [
    { name: 'find', label: 'Find', kind: 'text' },
    { name: 'with', label: 'Write instead', kind: 'text' },
  ],
  begin: () => ({ do: 'replace' as const, find: '', with: '' }),
  label: () => 'Replace words',
  schema: z.strictObject({
    do: z.literal('replace'),
    find: z.string().min(1).max(longestSetting),
    with: z.string().max(longestSetting),
  }),
  offer: () => undefined,
  say: (step) => `“${step.find}” replaced by “${step.with}”`,
  compile: (step) => (text) => replaceAll(text, step.find, step.with),
  examples: [{ step: { do: 'replace', find: 'pot', with: 'planter' }, from: 'pot in pot', to: 'planter in planter' }],
});

/** No channel takes a longer text; steps that make one longer and longer end here. */
const longestText = 200_000;

/** Replaces every occurrence; what would grow beyond 200,000 characters is cut there. */
function replaceAll(text: string, find: string, by: string): string {
  if (by.length <= find.length) return text.replaceAll(find, () => by);
  const parts = text.split(find);
  const grown = text.length + (parts.length - 1) * (by.length - find.length);
  if (grown <= longestText) return parts.join(by);
  const fitting = Math.floor((longestText - text.length) / (by.length - find.length));
  return [parts.slice(0, Math.max(0, fitting) + 1).join(by), ...parts.slice(Math.max(0, fitting) + 1)]
    .join(find)
    .slice(0, longestText);
}
