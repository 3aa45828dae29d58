import { absoluteLink as form } from '../rulebooks/index.js';
import { type ValueCheck, ofText } from './model.js';

export const absoluteLink: ValueCheck = {
  meta: {
    id: 'absolute-link',
    severity: 'blocker',
    describes: 'An address must be whole, with http or https and a host, so that a buyer can follow it.',
    fix: 'catalog',
    fault: 'is not a whole address',
    limit: 'absolute link',
    say: ({ value = '' }, label) => `${label} “${value}” is not a whole address`,
  },
  compile({ type }) {
    if (type !== 'link') return undefined;
    return ofText((value) => (form.test(value) ? undefined : { value }));
  },
  examples: {
    attribute: { type: 'link' },
    pass: ['https://shop.example/a', 'http://127.0.0.1:8080/a'],
    fail: ['/goods/a', 'shop.example/a', 'https:///a'],
  },
};
