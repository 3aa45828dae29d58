/** What the invented channels publish: their rulebooks, version by version, and the schemas of their own files. */
import { readFileSync, readdirSync } from 'node:fs';

const published = new URL('../published/', import.meta.url);

/** A document as it is published, by its name: “orrivane-goods.xsd”. Throws where there is none. */
export const readPublished = (name: string): string => readFileSync(new URL(name, published), 'utf8');

/** Rulebooks of a channel as JSON, oldest first: nobody here knows what they mean. */
export const rulebooksOf = (channel: string): unknown[] =>
  readdirSync(published)
    .filter((name) => name.startsWith(`${channel}-`) && name.endsWith('.json'))
    .sort()
    .map((name): unknown => JSON.parse(readPublished(name)));

/** Channels that publish a rulebook, by the name of their files. */
export const publishedChannels = (): string[] => [
  ...new Set(
    readdirSync(published)
      .filter((name) => name.endsWith('.json'))
      .map((name) => name.replace(/-[^-]*\.json$/, '')),
  ),
];
