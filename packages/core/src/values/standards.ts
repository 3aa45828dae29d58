/** Countries, languages and time zones as the standards have them: ISO 3166-1, BCP 47, the time zone database of IANA. */

/** A code and its name in English. */
export interface Named {
  code: string;
  name: string;
}

const english = {
  region: new Intl.DisplayNames(['en'], { type: 'region', fallback: 'none' }),
  language: new Intl.DisplayNames(['en'], { type: 'language', fallback: 'none' }),
  currency: new Intl.DisplayNames(['en'], { type: 'currency', fallback: 'none' }),
};

/** Codes of two letters that are no country, though they have a name: reserved ones, groups, and pseudo-locales (ISO 3166-1, CLDR). */
const noCountries = new Set('AC CP CQ DG EA EU EZ IC QO TA UN XA XB ZZ'.split(' '));

export const isCountry = (code: string): boolean =>
  /^[A-Z]{2}$/.test(code) &&
  !noCountries.has(code) &&
  english.region.of(code) !== undefined &&
  // A country that is no more stands for the one that came after it.
  Intl.getCanonicalLocales(`und-${code}`)[0] === `und-${code}`;

/** The tag as BCP 47 writes it ("DE-at" → "de-AT"); undefined where it is none, or of a language nobody has named. */
export function readLanguage(text: string): string | undefined {
  try {
    const [tag = ''] = Intl.getCanonicalLocales(text.trim());
    return english.language.of(tag) === undefined ? undefined : tag;
  } catch {
    return undefined;
  }
}

export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return name !== '';
  } catch {
    return false;
  }
}

const letters = [...'abcdefghijklmnopqrstuvwxyz'];
const pairs = letters.flatMap((a) => letters.map((b) => a + b));
const byName = (a: Named, b: Named) => a.name.localeCompare(b.name, 'en');

/** Every country, by name. */
export const countries = (): Named[] =>
  pairs
    .map((pair) => pair.toUpperCase())
    .filter(isCountry)
    .map((code) => ({ code, name: english.region.of(code) ?? code }))
    .sort(byName);

/** Every language of two letters, as it is written where most of its speakers live, and as it is in the market; by name. */
export function languages(market?: string): Named[] {
  const tags = pairs.flatMap((pair) => {
    // A code that another took the place of ("iw", now "he") would stand there twice.
    if (readLanguage(pair) !== pair) return [];
    const { region } = new Intl.Locale(pair).maximize();
    return [region, market].flatMap((each) => (each && isCountry(each) ? [`${pair}-${each}`] : []));
  });
  return [...new Set(tags)].map((code) => ({ code, name: sayLanguage(code) })).sort(byName);
}

/** Every currency, by code. */
export const currencies = (): Named[] =>
  Intl.supportedValuesOf('currency').map((code) => ({ code, name: english.currency.of(code) ?? code }));

export const timeZones = (): string[] => Intl.supportedValuesOf('timeZone');

/** "da-DK" → "Danish (Denmark)". */
export const sayLanguage = (tag: string): string => english.language.of(tag) ?? tag;
export const sayCountry = (code: string): string => (isCountry(code) ? (english.region.of(code) ?? code) : code);
