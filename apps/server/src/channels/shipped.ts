/** Rulebooks that ship, by the name of the channel that publishes them. */
import { loadRulebook } from '@velvet-shelf/core/checks';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { publishedChannels, rulebooksOf } from '@velvet-shelf/rulebooks';

/** Oldest first; none where nothing ships for the channel. Throws where one cannot be read. */
export const shippedRulebooks = (key: string): Rulebook[] =>
  rulebooksOf(key).map((json) => {
    const read = loadRulebook(json);
    if (!read.ok) throw new Error(`A rulebook that ships cannot be read: ${read.faults.join('; ')}`);
    return read.rulebook;
  });

export function listShipped() {
  return publishedChannels().map((key) => {
    const versions = shippedRulebooks(key);
    return {
      key,
      name: versions[0]?.name ?? key,
      versions: versions.map(({ version }) => version),
      summary: versions[0]?.summary ?? null,
    };
  });
}
