/** Words of sizes in the languages of the trade, folded: in small letters, without accents, hyphens and dots. */

const setOf = (words: string): ReadonlySet<string> => new Set(words.split('|'));

const scale: Record<string, string> = {
  // Rungs of the ladder on which m is 0.
  '-1': 's|sm|sml|sma|small|klein|liten|lille|petit|petite|pequeno|pequena|piccolo|piccola|maly|mala|male|pieni|pequenos|kleine|kleiner|smal|p',
  '0': 'm|md|med|medium|mittel|mellan|mellem|moyen|moyenne|mediano|mediana|medio|media|sredni|srednia|stredni|keskikoko|middel|normaal|moyens',
  '1': 'l|lg|lge|lrg|large|gross|stor|grand|grande|groot|duzy|duza|velky|velka|suuri|stort|grosse|grosser|g',
};

/** Words that stand on the ladder by themselves; “p” and “g” only where a list says S nowhere. */
export const rungs: ReadonlyMap<string, number> = new Map(
  Object.entries(scale).flatMap(([rung, words]) =>
    words
      .split('|')
      .filter((word) => word !== 'p' && word !== 'g')
      .map((word) => [word, Number(rung)] as const),
  ),
);

/** “Extra” before a rung takes it one further out. */
export const extras = setOf('x|extra|ex|ekstra|tres|muy|molto|sehr|bardzo|velmi|mycket|meget|erittain|zeer|muito');

/** How often what follows is meant. */
export const multiples: ReadonlyMap<string, number> = new Map([
  ...'double|doppel|dubbel|dobbelt|doble'.split('|').map((word) => [word, 2] as const),
  ...'triple|dreifach|trippel'.split('|').map((word) => [word, 3] as const),
]);

/** Words before a size that say only that it is one. */
export const announcers = setOf(
  'size|sizes|sz|gr|grosse|groesse|konfektionsgrosse|stl|storlek|str|storrelse|koko|maat|mt|taille|talla|taglia|tg|tamanho|tam|rozmiar|rozm|velikost|vel|t',
);

/** Fits everybody: last. */
export const oneSizes = setOf(
  'onesize|one size|os|o/s|osfa|osfm|one size fits all|one size fits most|one size only|uni|unisize|universal|universell|einheitsgrosse|unigrosse|taille unique|tu|talla unica|taglia unica|en storlek|one-size|en storrelse|tamanho unico|rozmiar uniwersalny|univerzalni|yksi koko|eenheidsmaat|uniwersalny|unica|unique|free size|freesize|ns|no size|single size|standard',
);

/** Widths and lengths of one size, by where they stand beside the regular one. */
export const fits: ReadonlyMap<string, number> = new Map([
  ...'petite|short|kurz|kort|court|corto|curto|lyhyt|krotki|kratky|xshort'
    .split('|')
    .map((word) => [word, -1] as const),
  ...'regular|reg|normal|standard|classic|normale|regolare'.split('|').map((word) => [word, 0] as const),
  ...'long|tall|lang|lange|largo|lungo|longo|pitka|dlugi|dlouhy|langt'.split('|').map((word) => [word, 1] as const),
]);

/** Months in one of what ages are counted in. */
export const ageUnits: ReadonlyMap<string, number> = new Map([
  ...'d|day|days|tag|tage|dagar|dag|dage|jours|dias|giorni'.split('|').map((word) => [word, 1 / 30.4375] as const),
  ...'w|wk|wks|week|weeks|woche|wochen|vecka|veckor|uge|uger|uke|uker|semaine|semaines|semana|semanas|settimane|weken|tygodni|tydnu|viikkoa'
    .split('|')
    .map((word) => [word, 7 / 30.4375] as const),
  ...'m|mo|mos|mon|mth|mths|mnth|mnths|month|months|monat|monate|monaten|mon.|man|manad|manader|maned|maneder|mdr|mois|mes|meses|mese|mesi|maand|maanden|mnd|miesiac|miesiace|miesiecy|mies|mesic|mesice|mesicu|kk|kuukautta'
    .split('|')
    .map((word) => [word, 1] as const),
  ...'y|yr|yrs|year|years|yo|yro|years old|year old|j|jahr|jahre|jahren|ar|an|ans|a|ano|anos|anni|anno|jaar|jr|lat|rok|roku|roky|let|v|vuotta|vuosi|t|jarig'
    .split('|')
    .map((word) => [word, 12] as const),
]);

/** The youngest, by months. */
export const newborn: ReadonlyMap<string, number> = new Map([
  ...'preemie|premature|prem|fruhchen|fruhgeborene|prematur|tiny baby|early baby|prematuro|prema'
    .split('|')
    .map((word) => [word, -2] as const),
  ...'newborn|new born|nb|neugeborene|neugeborenes|nyfodd|nyfodt|naissance|recien nacido|neonato|pasgeboren|noworodek|novorozenec|vastasyntynyt|recem nascido|first size|0'
    .split('|')
    .map((word) => [word, -1] as const),
]);

/** Sizes of beds and bedding, from the narrowest. */
export const beds: ReadonlyMap<string, number> = new Map(
  [
    'cot|crib',
    'cot bed|toddler',
    'small single',
    'single|twin',
    'single xl|twin xl|extra long twin',
    'small double|three quarter',
    'double|full',
    'queen',
    'king',
    'super king|superking|california king|cal king',
    'emperor',
  ].flatMap((words, i) => words.split('|').map((word) => [word, i] as const)),
);

/** Small, middle and large by names of their own. */
export const named: ReadonlyMap<string, number> = new Map(
  [
    'nano',
    'micro|mikro',
    'tiny|mini',
    'midi',
    'standard|regular|normal|classic',
    'maxi|family',
    'grande|big',
    'jumbo|giant|xxl pack',
    'mega',
  ].flatMap((words, i) => words.split('|').map((word) => [word, i] as const)),
);
