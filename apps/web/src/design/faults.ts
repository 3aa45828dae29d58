/** What is wrong with a field, in words: said where a schema of the contract has none of its own. */
import { count } from './words';

interface Issue {
  code?: string | undefined;
  input?: unknown;
  origin?: unknown;
  minimum?: unknown;
  maximum?: unknown;
}

/** Undefined where there is nothing better to say than what the schema says. */
export function sayIssue({ code, input, origin, minimum, maximum }: Issue): string | undefined {
  const isMissing = input === undefined || input === null || input === '';
  if (isMissing && (code === 'invalid_type' || code === 'too_small' || code === 'invalid_format'))
    return 'This is still missing';
  if (code === 'invalid_type') return 'This cannot be read';
  if (origin === 'string' && code === 'too_big') return `At most ${count(Number(maximum))} characters`;
  if (origin === 'string' && code === 'too_small') return `At least ${count(Number(minimum))} characters`;
  if (code === 'too_big') return `At most ${count(Number(maximum))}`;
  if (code === 'too_small') return `At least ${count(Number(minimum))}`;
  return undefined;
}
