import { foldText } from '../values/index.js';
import type { ValueCheck } from './model.js';

export const salesTalk: ValueCheck = {
  meta: {
    id: 'sales-talk',
    severity: 'blocker',
    describes:
      'A text praises the offer instead of naming the goods: phrases the channel lists, or runs of exclamation marks.',
    fix: 'catalog',
    fault: 'holds sales talk',
    limit: 'sales talk',
    say: ({ phrase = '' }, label) => `${label} holds sales talk: “${phrase}”`,
  },
  compile({ key }, rulebook) {
    const rule = rulebook.rules.find((rule) => rule.check === 'sales-talk' && rule.attributes.includes(key));
    if (rule?.check !== 'sales-talk') return undefined;
    const escaped = rule.phrases.map((phrase) => phrase.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').replace(/\s+/g, '\\s+'));
    const plain = new RegExp(`(?<![\\p{L}\\p{N}])(?:${escaped.join('|')})(?![\\p{L}\\p{N}])|!{2,}`, 'iu');
    return (value) => {
      if (typeof value !== 'string') return undefined;
      const found = plain.exec(value);
      return found ? { phrase: foldText(found[0]) } : undefined;
    };
  },
  examples: {
    attribute: { key: 'title' },
    rules: [{ check: 'sales-talk', attributes: ['title'], phrases: ['free delivery', 'best price'] }],
    pass: ['Moss pot, 12 cm', 'Bestpriced fern!'],
    fail: ['Moss pot FREE  DELIVERY', 'Pot!!'],
  },
};
