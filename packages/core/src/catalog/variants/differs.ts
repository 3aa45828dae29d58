/** What a variant holds otherwise than its siblings do. */

/**
 * By variant: of the values compared under one name, those that are not what most of its siblings hold. Where no value is
 * held by more than half of them there is no usual one, and every variant's own is told. `undefined` is no value; it is told
 * where the others have one.
 */
export function differing<Id>(
  variants: readonly { id: Id; held: ReadonlyMap<string, string> }[],
): Map<Id, { name: string; value: string | undefined }[]> {
  const names = new Set(variants.flatMap(({ held }) => [...held.keys()]));
  const answer = new Map<Id, { name: string; value: string | undefined }[]>(variants.map(({ id }) => [id, []]));
  for (const name of names) {
    const counts = new Map<string | undefined, number>();
    for (const { held } of variants) counts.set(held.get(name), (counts.get(held.get(name)) ?? 0) + 1);
    if (counts.size === 1) continue;
    const usual = [...counts].find(([, count]) => count * 2 > variants.length);
    for (const { id, held } of variants)
      if (usual === undefined || held.get(name) !== usual[0]) answer.get(id)?.push({ name, value: held.get(name) });
  }
  return answer;
}
