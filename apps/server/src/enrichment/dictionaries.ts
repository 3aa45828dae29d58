/** Dictionaries for spelling: English ones come with us; others are packages that an installation adds. */
import type { SpellingFiles } from '@velvet-shelf/core/enrichment';

const held = new Map<string, SpellingFiles | undefined>();

/** The dictionary of a language (BCP 47), of its region where there is one; undefined where none is installed. */
export async function spellingOf(tag: string): Promise<SpellingFiles | undefined> {
  if (held.has(tag)) return held.get(tag);
  const small = tag.toLowerCase();
  let found: SpellingFiles | undefined;
  for (const name of new Set([small, small.split('-')[0] ?? small])) {
    found = await installed(name);
    if (found) break;
  }
  held.set(tag, found);
  return found;
}

/** The packages of Hunspell dictionaries are all named and made the same way. */
async function installed(name: string): Promise<SpellingFiles | undefined> {
  if (!/^[a-z]{2,3}(?:-[a-z0-9]{2,8})*$/u.test(name)) return undefined;
  try {
    const { default: files } = (await import(`dictionary-${name}`)) as { default: Record<'aff' | 'dic', Uint8Array> };
    const read = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
    return { aff: read(files.aff), dic: read(files.dic) };
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ERR_MODULE_NOT_FOUND') return undefined;
    throw error;
  }
}
