/**
 * A map in which some keys stand for others: what is asked of such a key is answered of the one it stands for. Whoever goes
 * through the map meets each entry once, by its own key.
 */
export class AliasedMap<V> extends Map<string, V> {
  constructor(
    entries: Iterable<readonly [string, V]>,
    readonly aliases: ReadonlyMap<string, string>,
  ) {
    super(entries);
  }

  override get(key: string): V | undefined {
    return super.get(key) ?? super.get(this.aliases.get(key) ?? key);
  }

  override has(key: string): boolean {
    return super.has(key) || super.has(this.aliases.get(key) ?? key);
  }
}

/** The entries of a map and others before them, in which the same keys stand for others as in the map. */
export const withEntries = <V>(
  map: ReadonlyMap<string, V>,
  before: Iterable<readonly [string, V]> = [],
): AliasedMap<V> => new AliasedMap([...before, ...map], map instanceof AliasedMap ? map.aliases : new Map());
