import { secureLink as form } from '../rulebooks/index.js';
import { type ValueCheck, ofText } from './model.js';

export const secureLink: ValueCheck = {
  meta: {
    id: 'secure-link',
    severity: 'blocker',
    describes: 'An address must be fetched over https, so that nobody on the way reads or changes it.',
    fix: 'catalog',
    fault: 'is not an https address',
    limit: 'https only',
    say: ({ value = '' }, label) => `${label} “${value}” is not an https address`,
  },
  compile({ type, limits }) {
    if (type !== 'link' || limits.secure !== true) return undefined;
    return ofText((value) => (form.test(value) ? undefined : { value }));
  },
  examples: {
    attribute: { type: 'link', limits: { secure: true } },
    pass: ['https://shop.example/a'],
    fail: ['http://shop.example/a', '/a'],
  },
};
