/** Settings, all from the environment. */
import { z } from 'zod';

const schema = z.object({
  DATABASE_URL: z.string().min(1),
  VELVET_PORT: z.coerce.number().int().default(4180),
  VELVET_FILES: z.string().default('.velvet/files'),
  VELVET_WEB: z.string().optional(),
  /** Address the outside world reaches us at; feeds carry it in links to pictures. */
  VELVET_ADDRESS: z.string().optional(),
  /** Largest file taken in, bytes. */
  VELVET_MAX_UPLOAD: z.coerce.number().int().default(1_000_000_000),
  /** Rows of a transaction while a batch is applied. */
  VELVET_CHUNK_ROWS: z.coerce.number().int().min(1).default(5000),
  /** Bytes of files people sent that are kept in all. */
  VELVET_QUOTA: z.coerce.number().int().default(20_000_000_000),
  /** A reverse proxy stands before us, and says who asks (X-Forwarded-For, X-Forwarded-Proto, X-Forwarded-Host). */
  VELVET_PROXY: z.enum(['yes', 'no']).default('no'),
  /** Further names we are reached under, as host or host:port, with commas between. */
  VELVET_HOSTS: z.string().default(''),
  /** Hosts (or host:port) on private networks that may be fetched from all the same, with commas between. */
  VELVET_PRIVATE_HOSTS: z.string().default(''),
  /** What credentials are sealed with: 32 bytes in hexadecimal; without it, a key file beside the files. */
  VELVET_KEY: z
    .string()
    .regex(/^[0-9a-f]{64}$/i, 'VELVET_KEY has 64 hexadecimal digits')
    .optional(),
  /** Hours without use after which a session ends. */
  VELVET_IDLE_HOURS: z.coerce.number().min(0.01).default(12),
  VELVET_LOG: z.enum(['silent', 'error', 'warn', 'info', 'debug']).default('warn'),
});

export interface Config {
  database: string;
  port: number;
  files: string;
  web: string | undefined;
  address: string;
  maxUpload: number;
  quota: number;
  isBehindProxy: boolean;
  /** Names requests may be addressed to, as host:port or host. */
  hosts: ReadonlySet<string>;
  privateHosts: ReadonlySet<string>;
  /** Undefined where the key file is to be used. */
  key: string | undefined;
  idleHours: number;
  chunkRows: number;
  log: string;
}

export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const read = schema.parse(env);
  const address = (read.VELVET_ADDRESS ?? `http://127.0.0.1:${read.VELVET_PORT}`).replace(/\/$/, '');
  return {
    database: read.DATABASE_URL,
    port: read.VELVET_PORT,
    files: read.VELVET_FILES,
    web: read.VELVET_WEB,
    address,
    maxUpload: read.VELVET_MAX_UPLOAD,
    quota: read.VELVET_QUOTA,
    isBehindProxy: read.VELVET_PROXY === 'yes',
    hosts: new Set([
      new URL(address).host,
      ...['127.0.0.1', 'localhost', '[::1]'].map((host) => `${host}:${read.VELVET_PORT}`),
      ...listOf(read.VELVET_HOSTS),
    ]),
    privateHosts: new Set(listOf(read.VELVET_PRIVATE_HOSTS)),
    key: read.VELVET_KEY,
    idleHours: read.VELVET_IDLE_HOURS,
    chunkRows: read.VELVET_CHUNK_ROWS,
    log: read.VELVET_LOG,
  };
}

const listOf = (text: string) =>
  text
    .split(',')
    .map((text) => text.trim().toLowerCase())
    .filter(Boolean);
