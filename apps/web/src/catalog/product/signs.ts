/** Short signs of places, as few letters as tell them apart. */

/** By place: its first letter, or as many more of its words' letters as it takes to be the only one of them. */
export function signsOf(places: readonly { placeId: number; place: string }[]): Map<number, string> {
  const names = new Map(places.map(({ placeId, place }) => [placeId, lettersOf(place)]));
  const signs = new Map<number, string>();
  for (const [id, letters] of names) {
    const others = [...names].flatMap(([other, name]) => (other === id ? [] : [name]));
    const isAlone = (length: number) => !others.some((name) => name.slice(0, length) === letters.slice(0, length));
    const length = Array.from(letters, (_, i) => i + 1).find(isAlone) ?? letters.length;
    signs.set(id, letters.slice(0, length));
  }
  return signs;
}

/** “Quernby Germany” → QGuernby…: the first letters of its words, then the rest of the first. */
function lettersOf(name: string): string {
  const words = name.match(/[\p{L}\p{N}]+/gu) ?? [name];
  const rest = (words[0] ?? '').slice(1);
  return `${words.map((word) => word.charAt(0).toUpperCase()).join('')}${rest}`;
}
