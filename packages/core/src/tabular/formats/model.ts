/** What a format is that goods are read from. One file a format; index.ts lists them. How its rows are read is the server's (intake/read/formats). */
import type { z } from 'zod';

export interface ReadFormat {
  name: string;
  /** As a person reads it. */
  label: string;
  /** All that has to be known to read such a file. */
  schema: z.ZodObject;
  /** Of text: why a file that begins so is one of these; undefined where it is not. Formats are asked in the order of the index. */
  claims?(start: string): string | undefined;
}
