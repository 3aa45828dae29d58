/** Words in cells: of whether goods are sold, and those that tell a language. */

/** Words for whether goods are sold. */
export const stateWords: Readonly<Record<string, string>> = {
  lieferbar: 'selling',
  neu: 'selling',
  auslaufend: 'selling',
  entfällt: 'withdrawn',
  'on sale': 'selling',
  new: 'selling',
  current: 'selling',
  selling: 'selling',
  available: 'selling',
  // schema.org/ItemAvailability
  'in stock': 'selling',
  'in store only': 'selling',
  'online only': 'selling',
  'limited availability': 'selling',
  'out of stock': 'selling',
  'back order': 'selling',
  'pre order': 'selling',
  'pre sale': 'selling',
  'sold out': 'selling',
  reserved: 'selling',
  paused: 'paused',
  withdrawn: 'withdrawn',
  discontinued: 'withdrawn',
  utgått: 'withdrawn',
  lagervara: 'selling',
};

/** Everyday words that tell a language. */
const everyday: Record<string, ReadonlySet<string>> = Object.fromEntries(
  Object.entries({
    en: 'the and with for from of is to it this that your',
    de: 'der die das und mit für ist nicht aus ein eine auf im den von sich',
    sv: 'och med för är inte av ett som på till den det kan',
    da: 'og med for er ikke af et som på til den det kan fra også',
    nb: 'og med for er ikke av et som på til den det kan fra også',
    nl: 'de het een en met voor van is niet uit op deze dat zijn',
    fr: 'le la les des et avec pour est dans une un du sur en pas',
    es: 'el la los las y con para es una un del en por su que',
    it: 'il la gli e con per è una un del della in di che',
    pl: 'i z na do w jest nie się oraz dla to ze od',
    pt: 'o a os as e com para é uma um do da em que não',
    fi: 'ja on sekä joka ei myös se kanssa tai ovat kun',
    cs: 'a s na do v je se pro ve z že jsou i nebo',
  }).map(([language, words]) => [language, new Set(words.split(' '))]),
);

/** The language of some texts, where one clearly leads; `among` names those it may be (first halves of tags). */
export function guessLanguage(texts: readonly string[], among?: readonly string[]): string | undefined {
  const words = texts
    .slice(0, 60)
    .join(' ')
    .toLowerCase()
    .split(/[^\p{L}]+/u);
  const ranked = Object.entries(everyday)
    .filter(([language]) => among?.includes(language) ?? true)
    .map(([language, known]) => [language, words.filter((word) => known.has(word)).length] as const)
    .sort((a, b) => b[1] - a[1]);
  const [best, second] = ranked;
  return best && best[1] >= 5 && best[1] >= 1.5 * (second?.[1] ?? 0) ? best[0] : undefined;
}
