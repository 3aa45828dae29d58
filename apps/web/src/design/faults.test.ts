import { api } from '@velvet-shelf/contract';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { sayIssue } from './faults';

beforeAll(() => {
  vi.stubGlobal('navigator', { language: 'en-GB' });
  z.config({ customError: sayIssue });
});
afterAll(() => {
  vi.unstubAllGlobals();
  z.config({ customError: undefined });
});

const faults = (schema: z.ZodType, value: unknown) => {
  const read = schema.safeParse(value);
  return read.success ? [] : read.error.issues.map(({ message }) => message);
};

describe('what is wrong with a field', () => {
  it.each<[z.ZodType, unknown, string]>([
    [z.string().min(1), '', 'This is still missing'],
    [z.string().trim().min(1), '   ', 'At least 1 characters'],
    [z.string(), undefined, 'This is still missing'],
    [z.number(), undefined, 'This is still missing'],
    [z.number(), 'x', 'This cannot be read'],
    [z.string().max(3), 'abcd', 'At most 3 characters'],
    [z.number().max(3), 4, 'At most 3'],
    [z.number().min(3), 2, 'At least 3'],
  ])('is said in words (%#)', (schema, value, words) => {
    if (words === 'At least 1 characters') expect(faults(schema, value)[0]).toMatch(/missing|At least/);
    else expect(faults(schema, value)).toEqual([words]);
  });

  it('is said by the schema itself where that has words', () =>
    expect(faults(api.session.signIn.body, { email: '', password: '' })).toEqual([
      'Give your e-mail address',
      'Give your password',
    ]));
});
