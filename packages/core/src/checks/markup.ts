import { onlyTags } from '../values/index.js';
import { type ValueCheck, ofText } from './model.js';

const mostNamed = 5;

export const markup: ValueCheck = {
  meta: {
    id: 'markup',
    severity: 'advice',
    describes: 'A text has markup that the channel takes out before a shopper sees it.',
    fix: 'fit',
    fault: 'has markup that is taken out',
    step: 'keep-tags',
    say: ({ tags = '' }, label) => `${label} has markup that the channel takes out: ${tags}`,
  },
  compile({ limits: { tags } }) {
    if (tags === undefined) return undefined;
    return ofText((text) => {
      if (!text.includes('<')) return undefined;
      const { removed } = onlyTags(text, tags);
      return removed.length === 0 ? undefined : { tags: removed.slice(0, mostNamed).join(', ') };
    });
  },
  examples: {
    attribute: { limits: { tags: ['p', 'b'] } },
    pass: ['A pot', '<p>A <b>pot</b></p>', '3 < 4'],
    fail: ['<h3>A pot</h3>', '<p>A pot</p><table><tr><td>1</td></tr></table>'],
  },
};
