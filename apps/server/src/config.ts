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
  VELVET_LOG: z.enum(['silent', 'warn', 'info', 'debug']).default('warn'),
});

export interface Config {
  database: string;
  port: number;
  files: string;
  web: string | undefined;
  address: string;
  maxUpload: number;
  chunkRows: number;
  log: string;
}

export function readConfig(env: NodeJS.ProcessEnv = process.env): Config {
  const read = schema.parse(env);
  return {
    database: read.DATABASE_URL,
    port: read.VELVET_PORT,
    files: read.VELVET_FILES,
    web: read.VELVET_WEB,
    address: (read.VELVET_ADDRESS ?? `http://127.0.0.1:${read.VELVET_PORT}`).replace(/\/$/, ''),
    maxUpload: read.VELVET_MAX_UPLOAD,
    chunkRows: read.VELVET_CHUNK_ROWS,
    log: read.VELVET_LOG,
  };
}
