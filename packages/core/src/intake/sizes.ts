/** Cells of several sizes: which part is what, as letters in the header say, else as they are usually written. */
import { type Attribute, type Role, keyOf } from '../values/index.js';
import type { Column } from './column.js';
import type { ColumnTarget } from './mapping.js';
import type { Traits } from './traits.js';

/** Letters of sizes in headers, in the languages of the trade. */
const letters: Record<string, Role> = {
  l: 'length',
  w: 'width',
  b: 'width',
  h: 'height',
  d: 'depth',
  t: 'depth',
  p: 'depth',
  a: 'width',
  s: 'width',
  v: 'height',
  '\u00f8': 'diameter',
};

type Target = Extract<ColumnTarget, { to: 'attribute' }>;

/** One target a part; none where it cannot be told, or where the dictionary lacks one of them. */
export function sizeTargets(
  { name, unit }: Column,
  { parts }: Traits,
  dictionary: ReadonlyMap<string, Attribute>,
): Target[] {
  const written =
    /(?<!\p{L})([lwbhdtpasvø⌀])\s*[x×*/]\s*([lwbhdtpasvø⌀])(?:\s*[x×*/]\s*([lwbhdtpasvø⌀]))?(?!\p{L})/iu.exec(name);
  const said = written
    ?.slice(1)
    .flatMap((letter) => (letter ? [letters[letter.toLowerCase().replace('⌀', 'ø')] ?? 'length'] : []));
  const roles: readonly Role[] =
    said ?? (parts === 3 ? ['length', 'width', 'height'] : parts === 2 ? ['length', 'width'] : []);
  if (said && parts > 0 && said.length !== parts) return [];
  const keys = roles.map((role) => keyOf(dictionary, role));
  if (new Set<Role>(roles).size < roles.length || keys.some((key) => key === undefined)) return [];
  return keys.map((attribute, i) => ({
    to: 'attribute',
    attribute: attribute ?? '',
    part: i + 1,
    ...(unit ? { unit } : {}),
  }));
}
