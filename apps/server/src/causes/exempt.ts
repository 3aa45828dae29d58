/** Whom to ask to let goods go without what a cause finds missing. */
import type { CauseDetail } from '@velvet-shelf/contract';
import { liftedByExemption } from '@velvet-shelf/core/checks';
import { formatValue, keyOf } from '@velvet-shelf/core/values';
import type { Scene, Touched } from './scene.js';

/** Each account once, and only where its channel lets goods go without the attribute the finding is of. */
export function exemptable(
  { places, rulebooks, dictionary }: Scene,
  key: string,
  touched: readonly Touched[],
): CauseDetail['exempt'] {
  const answer = new Map<string, CauseDetail['exempt'][number]>();
  for (const { findings, place_id: at } of touched) {
    const finding = findings.find(({ cause }) => cause === key);
    const place = places.find(({ id }) => id === at);
    const asked = rulebooks.get(at)?.attributes.find((attribute) => attribute.key === finding?.attribute);
    if (!place || !asked?.exempt || !finding || !liftedByExemption.has(finding.check)) continue;
    const { accountId, channelName: channel } = place;
    answer.set(`${accountId} ${asked.key}`, {
      ...{ accountId, channel, attribute: asked.key },
      maker: asked.exempt.includes('maker') ? makerOfMost(dictionary, touched) : null,
    });
  }
  return [...answer.values()];
}

function makerOfMost({ attributes, reader }: Scene['dictionary'], touched: readonly Touched[]): string | null {
  const brand = attributes.get(keyOf(attributes, 'brand') ?? '');
  if (!brand) return null;
  const counts = new Map<string, number>();
  for (const { facts } of touched) {
    const value = facts[brand.key];
    if (value === undefined) continue;
    const text = formatValue(value, brand, reader);
    counts.set(text, (counts.get(text) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}
