/** schema.org descriptions (JSON-LD 1.1): out of a document of their own, or out of the script elements of an HTML page. */
import { Parser } from 'htmlparser2';
import { UnreadableFile } from './reading.js';

/** What is goods: schema.org/Product, ProductGroup and their kin. */
const goodsTypes =
  /^(?:https?:\/\/schema\.org\/|schema:)?(?:Product|ProductGroup|IndividualProduct|ProductModel|SomeProducts|Vehicle|Book)$/;

/** Contents of the page's `script` elements of type application/ld+json. */
export function linkedScripts(html: string): string[] {
  const found: string[] = [];
  let inside = false;
  const parser = new Parser({
    onopentag: (name, attributes) => {
      inside = name === 'script' && /^application\/ld\+json\b/i.test(attributes.type ?? '');
      if (inside) found.push('');
    },
    ontext: (text) => {
      if (inside) found[found.length - 1] += text;
    },
    onclosetag: () => (inside = false),
  });
  parser.write(html);
  parser.end();
  return found;
}

/** All goods of a document or page, each once, at the highest level they stand on. */
export function linkedItems(text: string): unknown[] {
  const isPage = text
    .replace(/^\uFEFF/, '')
    .trimStart()
    .startsWith('<');
  const documents = isPage ? linkedScripts(text) : [text.replace(/^\uFEFF/, '')];
  if (documents.length === 0)
    throw new UnreadableFile(
      'It is a web page, not a table, and holds no schema.org description (no script of type application/ld+json). Save the table on it as CSV, or ask for the file behind it',
    );
  const items = documents.flatMap((document, i) => {
    try {
      return collect(JSON.parse(document));
    } catch (error) {
      throw new UnreadableFile(`Description ${i + 1} is not JSON: ${(error as Error).message}`);
    }
  });
  if (items.length === 0) throw new UnreadableFile('Its schema.org description tells of no product');
  return items;
}

function collect(node: unknown): unknown[] {
  if (Array.isArray(node)) return node.flatMap(collect);
  if (typeof node !== 'object' || node === null) return [];
  const types = [(node as { '@type'?: unknown })['@type']].flat();
  if (types.some((type) => typeof type === 'string' && goodsTypes.test(type))) return [withoutKeywords(node)];
  return Object.values(node).flatMap(collect);
}

/** JSON-LD's own keywords say nothing about the goods; "@id" alone stands for what it names. */
function withoutKeywords(node: unknown): unknown {
  if (Array.isArray(node)) return node.map(withoutKeywords);
  if (typeof node === 'string') return enumerated(node);
  if (typeof node !== 'object' || node === null) return node;
  const entries = Object.entries(node);
  const members = entries.filter(([key]) => !key.startsWith('@'));
  if (members.length === 0)
    return enumerated((node as { '@value'?: unknown })['@value'] ?? (node as { '@id'?: unknown })['@id']);
  return Object.fromEntries(members.map(([key, value]) => [key, withoutKeywords(value)]));
}

/** A member of one of schema.org's enumerations by its words: "https://schema.org/InStock" → "in stock". */
function enumerated(value: unknown): unknown {
  const name =
    typeof value === 'string' ? /^(?:https?:\/\/schema\.org\/|schema:)([A-Z]\w*)$/.exec(value)?.[1] : undefined;
  return name === undefined ? value : name.replace(/(?<=[a-z])(?=[A-Z])/g, ' ').toLowerCase();
}
