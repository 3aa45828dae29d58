import { z } from 'zod';
import { onlyTags } from '../../values/index.js';
import { defineStep } from './model.js';

const mostTags = 60;

export const keepTags = defineStep({
  name: 'keep-tags',
  title: 'Keep some markup',
  fields: [{ name: 'tags', label: 'Tags', kind: 'list' }],
  begin: () => ({ do: 'keep-tags' as const, tags: [] }),
  label: ({ tags = [] }) => `Keep only the markup it takes (${tags.join(', ')})`,
  schema: z.strictObject({ do: z.literal('keep-tags'), tags: z.array(z.string().max(20)).min(1).max(mostTags) }),
  offer: ({ tags }) => (tags && tags.length > 0 ? { do: 'keep-tags' as const, tags: [...tags] } : undefined),
  say: ({ tags }) => `only ${tags.join(', ')} left of its markup`,
  compile:
    ({ tags }) =>
    (text) =>
      onlyTags(text, tags).html,
  examples: [
    {
      step: { do: 'keep-tags', tags: ['p', 'b'] },
      from: '<h3>Pot</h3><p>A <b>pot</b> <i>here</i></p>',
      to: 'Pot<p>A <b>pot</b> here</p>',
    },
  ],
});
