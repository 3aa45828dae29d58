/** What no request may hold, whatever its endpoint: looked for before any schema walks through it. */
import { keptText } from '@velvet-shelf/core/values';
import type { Pointed } from './problem.js';

const deepest = 40;
const mostMembers = 500_000;
/** A long description, with room to spare. */
const longestText = 1_000_000;

/** Where a value is deeper, longer or otherwise than can be taken in, and how; undefined where all is well. */
export function faultOf(value: unknown, pointer: string): Pointed | undefined {
  const stack: { value: unknown; pointer: string; depth: number }[] = [{ value, pointer, depth: 0 }];
  let members = 0;
  for (let next = stack.pop(); next !== undefined; next = stack.pop()) {
    if (typeof next.value === 'string') {
      const detail = faultOfText(next.value);
      if (detail) return { pointer: next.pointer, detail };
      continue;
    }
    if (typeof next.value !== 'object' || next.value === null) continue;
    if (next.depth >= deepest)
      return { pointer: shortened(next.pointer), detail: `is nested more than ${deepest} deep` };
    for (const key of Object.keys(next.value)) {
      if (++members > mostMembers) return { pointer, detail: `has more than ${mostMembers} members` };
      if (key === '__proto__') return { pointer: next.pointer, detail: 'has a member named “__proto__”' };
      const detail = faultOfText(key);
      if (detail) return { pointer: next.pointer, detail };
      stack.push({
        value: (next.value as Record<string, unknown>)[key],
        pointer: `${next.pointer}/${key}`,
        depth: next.depth + 1,
      });
    }
  }
  return undefined;
}

function faultOfText(text: string): string | undefined {
  if (text.length > longestText) return `has more than ${longestText} characters`;
  return keptText(text) === text ? undefined : 'holds U+0000 or half a character, which is in no text';
}

const shortened = (pointer: string) => (pointer.length > 120 ? `${pointer.slice(0, 120)}…` : pointer);
