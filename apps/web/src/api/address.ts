/** What a page keeps in its address, so that it can be linked to, gone back to and opened again: typed by a schema. */
import { useCallback, useMemo } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { z } from 'zod';

/** What was written last, until the router has taken it: two changes in one breath both stand. */
let written: { key: string; search: string } | undefined;

/** Words that say no more than their absence does. */
const flag = 'yes';

/** A number in an address; one that is none is as if it were not there. */
export const inAddress = {
  number: z.coerce.number().int().positive().optional(),
  text: z.string().optional(),
  /** A search box’s: empty where there is none. */
  search: z.string().default(''),
  flag: z
    .literal(flag)
    .optional()
    .transform((word) => word === flag),
  /** A list as JSON; one that cannot be read is empty. */
  list: <Item extends z.ZodType>(item: Item) =>
    z
      .string()
      .optional()
      .transform((text) => z.array(item).safeParse(parsed(text ?? '[]')).data ?? []),
};

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

type Change<Schema extends z.ZodObject> = { [K in keyof z.infer<Schema>]?: z.infer<Schema>[K] | undefined };

/** Fields as the address has them; what it does not have, or has wrongly, as the schema's default. */
export function readAddress<Schema extends z.ZodObject>(schema: Schema, search: string): z.infer<Schema> {
  const params = new URLSearchParams(search);
  const fields = Object.entries(schema.shape).map(([name, field]) => {
    const given = params.get(name) ?? undefined;
    const read = z.safeParse(field, given);
    return [name, read.success ? read.data : z.parse(field, undefined)];
  });
  return Object.fromEntries(fields) as z.infer<Schema>;
}

/** An address with these fields changed; an empty one is left out, what the change does not name stays. */
export function writeAddress(search: string, change: Readonly<Record<string, unknown>>): string {
  const params = new URLSearchParams(search);
  for (const [name, value] of Object.entries(change))
    if (value === undefined || value === '' || value === false || (Array.isArray(value) && value.length === 0))
      params.delete(name);
    else params.set(name, value === true ? flag : Array.isArray(value) ? JSON.stringify(value) : String(value));
  return params.toString();
}

/**
 * The fields of a page's address, and how they are changed. `replace` leaves no step to go back to: for what is typed letter by
 * letter, and for what follows by itself.
 */
export function useAddress<Schema extends z.ZodObject>(
  schema: Schema,
): [z.infer<Schema>, (change: Change<Schema>, how?: { replace?: boolean }) => void] {
  const { search, key } = useLocation();
  const navigate = useNavigate();
  const fields = useMemo(() => readAddress(schema, search), [schema, search]);
  const change = useCallback(
    (to: Change<Schema>, { replace = false }: { replace?: boolean } = {}) => {
      const now = written?.key === key ? written.search : search;
      const next = writeAddress(now, to);
      if (next === new URLSearchParams(now).toString()) return;
      written = { key, search: next };
      // At once: the next key pressed is heard by the page as it is then, however slow the machine is.
      void navigate({ search: next }, { replace, flushSync: true });
    },
    [key, navigate, search],
  );
  return [fields, change];
}
