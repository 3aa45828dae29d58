/** What a batch makes when it is applied: attributes for columns without a home, values for lists that lack them. */
import { z } from 'zod';
import {
  type Attribute,
  type ListValue,
  attributeTypes,
  closedList,
  dimensions,
  foldText,
  roles,
  withEntries,
} from '../values/index.js';

export const newAttributeSchema = z.strictObject({
  key: z.string().max(200),
  label: z.string().trim().min(1).max(120),
  type: z.enum(attributeTypes),
  many: z.boolean(),
  perLanguage: z.boolean(),
  level: z.enum(['family', 'variant']),
  dimension: z.enum(dimensions).nullable(),
  role: z.enum(roles).nullable(),
  group: z.string().max(60),
});

/** A value of a list; `parent` is the key of the value it stands under. */
export const newListValueSchema = z.strictObject({
  attribute: z.string().max(200),
  key: z.string().max(200),
  name: z.string().trim().min(1).max(200),
  parent: z.string().max(200).nullable(),
});

export const makesSchema = z.strictObject({
  attributes: z.array(newAttributeSchema),
  values: z.array(newListValueSchema),
});
export type Makes = z.infer<typeof makesSchema>;
export type NewListValue = z.infer<typeof newListValueSchema>;

export const noMakes: Makes = { attributes: [], values: [] };

/** The dictionary as it will be once the batch is applied. What is there by now is left as it is. */
export function withMakes(
  dictionary: ReadonlyMap<string, Attribute>,
  { attributes, values }: Makes,
  home: string,
): ReadonlyMap<string, Attribute> {
  if (attributes.length === 0 && values.length === 0) return dictionary;
  const all = withEntries(dictionary);
  for (const { dimension, role, ...given } of attributes)
    if (!all.has(given.key))
      all.set(given.key, {
        ...given,
        ...(dimension === null ? {} : { dimension }),
        ...(role === null ? {} : { role }),
        ...(given.type === 'choice' ? { choices: [] } : {}),
      });
  const added = new Map<string, ListValue[]>();
  for (const { attribute, key, name, parent } of values) {
    const list = all.get(attribute);
    if (!list || closedList(list)?.has(key)) continue;
    const value = { key, names: { [home]: name }, ...(parent === null ? {} : { parent }) };
    added.set(attribute, [...(added.get(attribute) ?? []), value]);
  }
  for (const [key, more] of added) {
    const attribute = all.get(key);
    if (attribute) all.set(key, { ...attribute, choices: [...(attribute.choices ?? []), ...more] });
  }
  return all;
}

/**
 * The values a list lacks for these paths of names, each after the one it stands under. A path whose end the list has by any name
 * or spelling, wherever it stands, lacks nothing. `keyFor` gives a new key to a name.
 */
export function lackingValues(
  attribute: Pick<Attribute, 'key' | 'choices'>,
  paths: readonly (readonly string[])[],
  keyFor: (name: string) => string,
): NewListValue[] {
  const list = closedList({ choices: attribute.choices ?? [] });
  const slot = (parent: string | null, name: string) => `${parent ?? ''}\u0001${foldText(name)}`;
  const known = new Map(
    list.values.flatMap(({ key, names, spellings = [], parent = null }) =>
      [...Object.values(names), ...spellings].map((name) => [slot(parent, name), key] as const),
    ),
  );
  const made: NewListValue[] = [];
  for (const path of paths) {
    if (list.read(path.join(' / ')) !== undefined) continue;
    let at: string | null = null;
    for (const name of path.map((each) => each.trim()).filter((each) => each !== '')) {
      let key = known.get(slot(at, name));
      if (key === undefined) {
        key = keyFor(name);
        known.set(slot(at, name), key);
        made.push({ attribute: attribute.key, key, name, parent: at });
      }
      at = key;
    }
  }
  return made;
}
