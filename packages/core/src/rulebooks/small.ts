/** A rulebook from a few lines: for a channel whose rules fit on a page. Fields, needs, limits, lists, a tree; the layout follows. */
import { foldText } from '../values/index.js';
import { type FeedFormat } from './exchange.js';
import type { ChannelAttribute, Rulebook } from './model.js';

/** A field as somebody describes it. */
export interface SmallField {
  label: string;
  type: Exclude<ChannelAttribute['type'], 'category'>;
  need: ChannelAttribute['need'];
  /** In characters. */
  maxLength?: number | undefined;
  /** Closed list. */
  values?: readonly string[] | undefined;
}

export interface SmallChannel {
  name: string;
  fields: readonly SmallField[];
  market: { name: string; country: string; language: string; currency: string };
  /** Each as its names from the root down. */
  categories: readonly (readonly string[])[];
  /** Goods need a category of its tree. */
  needsCategory: boolean;
  formats: readonly FeedFormat[];
  /** Day it holds from (ISO 8601). */
  today: string;
}

/** A name as others refer to it: letters and figures, a letter first; told apart by a number where another has it. */
function keysFor(): (name: string, otherwise: string) => string {
  const taken = new Set<string>();
  return (name, otherwise) => {
    const words = foldText(name)
      .split(/[^a-z0-9]+/)
      .filter(Boolean);
    const joined = words.map((word, i) => (i === 0 ? word : word.charAt(0).toUpperCase() + word.slice(1))).join('');
    const base = /^[a-z]/.test(joined) ? joined : `${otherwise}${joined}`;
    let key = base;
    for (let n = 2; taken.has(key.toLowerCase()); n++) key = `${base}${n}`;
    taken.add(key.toLowerCase());
    return key;
  };
}

/** The first field names an item in files. What it gives is read like any other rulebook (`loadRulebook`), which tells what is wrong with it. */
export function smallRulebook({
  name,
  fields,
  market,
  categories,
  needsCategory,
  formats,
  today,
}: SmallChannel): Rulebook {
  const channel = keysFor()(name, 'channel');
  const keyFor = keysFor();
  const attributes = fields.map(({ label, type, need, maxLength, values }, i): ChannelAttribute => ({
    key: keyFor(label, 'field'),
    label: label.trim(),
    type: values && values.length > 0 ? 'choice' : type,
    need: i === 0 ? 'required' : need,
    limits: {
      ...(maxLength === undefined ? {} : { maxLength }),
      ...(values && values.length > 0 ? { values: [...values] } : {}),
    },
  }));
  const tree = treeOf(categories);
  if (tree.length > 0)
    attributes.push({
      key: keyFor('category', 'field'),
      label: 'Category',
      type: 'category',
      need: needsCategory ? 'required' : 'optional',
      limits: {},
    });
  const { key: itemKey = '' } = attributes[0] ?? {};
  return {
    channel,
    name: name.trim(),
    version: '1',
    validFrom: today,
    markets: [{ key: market.country, ...market }],
    categoryNeed: tree.length === 0 ? 'optional' : needsCategory ? 'required' : 'optional',
    leafOnly: false,
    categories: tree,
    attributes,
    rules: [],
    eligibility: [],
    exchange: {
      itemKey,
      formats: [...formats],
      document: {
        root: 'goods',
        namespace: `urn:${channel.toLowerCase()}:goods`,
        item: 'item',
        blocks: attributes.map(({ key }) => ({ name: key, attribute: key, marks: {} })),
      },
      rows: {
        rss: { prefix: 'own', namespace: `urn:${channel.toLowerCase()}:fields` },
        fields: attributes.map(({ key }) => ({ attribute: key, name: key })),
      },
    },
  };
}

/** Paths of names as a tree of keys, each with all above it, each once. */
function treeOf(paths: readonly (readonly string[])[]): Rulebook['categories'] {
  const known = new Map<string, { path: string; name: string }>();
  const keysBelow = new Map<string, ReturnType<typeof keysFor>>();
  for (const names of paths) {
    let at = '';
    let folded = '';
    for (const name of names) {
      folded = `${folded}/${foldText(name)}`;
      let held = known.get(folded);
      if (!held) {
        const keyFor = keysBelow.get(at) ?? keysFor();
        keysBelow.set(at, keyFor);
        const key = keyFor(name, 'c');
        held = { path: at === '' ? key : `${at}/${key}`, name: name.trim() };
        known.set(folded, held);
      }
      at = held.path;
    }
  }
  return [...known.values()];
}
