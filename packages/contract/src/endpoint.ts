/** An endpoint: its address, and the schemas of what goes in and out. The server serves it, the web calls it. */
import { type ZodObject, type ZodType, z } from 'zod';

/** Each may what those before it may. */
export const roles = ['viewer', 'editor', 'publisher', 'owner'] as const;
export type Role = (typeof roles)[number];

/** Whether somebody of this role may what another role is needed for. */
export const mayAs = (role: Role, needed: Role | 'anyone'): boolean =>
  needed === 'anyone' || roles.indexOf(role) >= roles.indexOf(needed);

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
  /** The least role that may; docs/roles.md is made from these. */
  role: Role | 'anyone';
  /** What goes out, or in, where it is no JSON: a file, a file sent as multipart/form-data, events. */
  kind: 'json' | 'file' | 'upload' | 'events';
  /** Sent again with the same `Idempotency-Key`, it is done once, and answered as the first time. */
  once: boolean;
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
  role: Endpoint['role'];
  kind?: Endpoint['kind'];
  once?: boolean;
  params?: P;
  query?: Q;
  body?: B;
  answer: A;
}): Endpoint<P, Q, B, A> {
  return {
    ...given,
    kind: given.kind ?? 'json',
    once: given.once ?? false,
    params: given.params ?? (nothing as unknown as P),
    query: given.query ?? (nothing as unknown as Q),
    body: given.body ?? (nothing as unknown as B),
  };
}

/** A file or a stream of events: what it holds is no JSON. */
export const bytes = z.unknown();

/** The number of a row, in a body; in an address it comes as text. */
export const rowNumber = z.number().int().positive();
export const rowNumberText = z.coerce.number().int().positive();

/** A row of a file, counted from 1. */
export const fileRow = z.number().int().min(1).max(2_147_483_647);
export const fileRowText = z.coerce.number().int().min(1).max(2_147_483_647);

/** The row a path names. */
export const idParam = z.object({ id: rowNumberText });

/** Where a page of a list ended. */
export const cursorText = z.string().regex(/^\d{1,15}$/, 'A cursor is what `next` of the page before said');

/** A page of a list; `next` is handed back as `cursor` for the following page. */
export const page = <T extends ZodType>(item: T) => z.object({ items: z.array(item), next: z.string().nullable() });

export const cursorQuery = z.object({
  cursor: cursorText.optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
});

export const moment = z.iso.datetime({ offset: true });
