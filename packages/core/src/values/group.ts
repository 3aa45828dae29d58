/** Lists by a key of each of their entries, in the order the keys are met in. */
export function groupBy<T, K>(list: Iterable<T>, key: (entry: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const entry of list) {
    const k = key(entry);
    const group = groups.get(k);
    if (group) group.push(entry);
    else groups.set(k, [entry]);
  }
  return groups;
}
