/** Attributes for tests. */
import type { Attribute } from './model.js';
import { type Role, roles } from './roles.js';

/** An attribute of which a test says what it is about; one called by a role has it. */
export function testAttribute(given: Partial<Attribute> = {}): Attribute {
  const { key = 'a' } = given;
  return {
    key,
    label: key,
    type: 'text',
    many: false,
    perLanguage: false,
    level: 'variant',
    group: '',
    ...((roles as readonly string[]).includes(key) ? { role: key as Role } : {}),
    ...given,
  };
}
