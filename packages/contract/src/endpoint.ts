/** An endpoint: its address, and the schemas of what goes in and out. The server serves it, the web calls it. */
import { type ZodObject, type ZodType, z } from 'zod';

export interface Endpoint<
  P extends ZodType = ZodType,
  Q extends ZodType = ZodType,
  B extends ZodType = ZodType,
  A extends ZodType = ZodType,
> {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** With `:name` for parameters. */
  path: string;
  summary: string;
  /** Needs no session. */
  open?: boolean;
  params: P;
  query: Q;
  body: B;
  answer: A;
}

const nothing = z.object({});
type Nothing = typeof nothing;

export function endpoint<
  A extends ZodType,
  P extends ZodObject = Nothing,
  Q extends ZodObject = Nothing,
  B extends ZodType = Nothing,
>(given: {
  method: Endpoint['method'];
  path: string;
  summary: string;
  open?: boolean;
  params?: P;
  query?: Q;
  body?: B;
  answer: A;
}): Endpoint<P, Q, B, A> {
  return {
    ...given,
    params: given.params ?? (nothing as unknown as P),
    query: given.query ?? (nothing as unknown as Q),
    body: given.body ?? (nothing as unknown as B),
  };
}

/** The row a path names. */
export const idParam = z.object({ id: z.coerce.number().int().positive() });

/** A page of a list; `next` is handed back as `cursor` for the following page. */
export const page = <T extends ZodType>(item: T) => z.object({ items: z.array(item), next: z.string().nullable() });

export const cursorQuery = z.object({
  cursor: z.string().optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
});

export const moment = z.iso.datetime({ offset: true });
