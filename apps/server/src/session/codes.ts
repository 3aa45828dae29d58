/** Secrets that people are told once: codes they type, tokens in links. Their hashes alone are kept. */
import { createHash, randomBytes, randomInt } from 'node:crypto';

/** Letters and figures that nobody takes for one another (RFC 4648 without I, O, 0 and 1, and without vowels that make words). */
const letters = 'BCDFGHJKLMNPQRSTVWXZ23456789';

/** “K7QD-3MXR”: 28⁸ of them, 38 bits. */
export function newCode(): string {
  const draw = () => Array.from({ length: 4 }, () => letters.charAt(randomInt(letters.length))).join('');
  return `${draw()}-${draw()}`;
}

/** As it is compared: however it was typed. */
export const bareCode = (text: string): string => text.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** For links: 256 bits. */
export const newToken = (): string => randomBytes(32).toString('base64url');

export const digestOf = (token: string): string => createHash('sha256').update(token).digest('base64url');
