/** Credentials of the company’s accounts: sealed at rest (AES-256-GCM, NIST SP 800-38D), with the id of the key beside them, so that keys can change. */
import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Config } from '../config.js';

const algorithm = 'aes-256-gcm';

/** The key of the environment, or the one in a file beside the data, made when it is first needed. */
async function keyOf({ key, files }: Pick<Config, 'key' | 'files'>): Promise<Buffer> {
  if (key !== undefined) return Buffer.from(key, 'hex');
  const path = join(files, 'key');
  const held = await readFile(path, 'utf8').catch(() => undefined);
  if (held !== undefined) return Buffer.from(held.trim(), 'hex');
  await mkdir(files, { recursive: true });
  try {
    // Of two that make one at once the second takes the first one’s.
    await writeFile(path, randomBytes(32).toString('hex'), { flag: 'wx', mode: 0o600 });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
  return Buffer.from((await readFile(path, 'utf8')).trim(), 'hex');
}

const idOf = (key: Buffer): string => createHash('sha256').update(key).digest('hex').slice(0, 12);

/** “key id.nonce.tag.content”. */
export async function seal(config: Pick<Config, 'key' | 'files'>, value: unknown): Promise<string> {
  const key = await keyOf(config);
  const nonce = randomBytes(12);
  const cipher = createCipheriv(algorithm, key, nonce);
  const content = Buffer.concat([cipher.update(JSON.stringify(value), 'utf8'), cipher.final()]);
  return [idOf(key), ...[nonce, cipher.getAuthTag(), content].map((part) => part.toString('base64url'))].join('.');
}

/** What was sealed; undefined where it was sealed with another key, or was tampered with. */
export async function unseal(config: Pick<Config, 'key' | 'files'>, sealed: string): Promise<unknown> {
  const [id, ...parts] = sealed.split('.');
  const key = await keyOf(config);
  const [nonce, tag, content] = parts.map((part) => Buffer.from(part, 'base64url'));
  if (id !== idOf(key) || !nonce || !tag || !content) return undefined;
  try {
    const decipher = createDecipheriv(algorithm, key, nonce);
    decipher.setAuthTag(tag);
    return JSON.parse(Buffer.concat([decipher.update(content), decipher.final()]).toString('utf8')) as unknown;
  } catch {
    return undefined;
  }
}
