/** What the cells of a column say to each thing it may be: for it, against it, or by themselves. */
import { foldLetters, foldText, parseValue, units, withRole } from '../values/index.js';
import type { Sense } from '../catalog/index.js';
import { type Heard, type Surroundings, prior } from './candidates.js';
import type { Column } from './column.js';
import { type Traits, countryWords, otherUnits } from './traits.js';

let countries: ReadonlySet<string> | undefined;
const isCountryWord = (cell: string): boolean => {
  countries ??= countryWords(['en', 'de', 'sv', 'da', 'nb', 'nl', 'fr', 'es', 'it', 'pl', 'pt', 'fi', 'cs']);
  const folded = foldText(cell);
  return countries.has(folded) || /^[A-Z]{2}$/.test(cell.trim());
};

/** Words of colours, folded: enough of them in the languages of the trade to know a column of them. */
const colours = new Set(
  'black white red blue green yellow grey gray brown beige pink purple orange navy cream ivory silver gold turquoise natural anthracite schwarz weiss rot blau grun gelb grau braun rosa lila creme silber gold turkis natur anthrazit svart vit rod bla gron gul gra brun sort hvid rod gron hvit gronn brun zwart wit rood blauw groen geel grijs bruin roze paars oranje noir blanc rouge bleu vert jaune gris marron rose violet argent or turquoise negro blanco rojo azul verde amarillo gris marron rosa morado naranja plata oro nero bianco rosso blu verde giallo grigio marrone viola arancione argento czarny bialy czerwony niebieski zielony zolty szary brazowy rozowy fioletowy pomaranczowy srebrny zloty preto branco vermelho amarelo cinza castanho roxo laranja prata musta valkoinen punainen sininen vihrea keltainen harmaa ruskea pinkki violetti oranssi hopea kulta cerna bila cervena modra zelena zluta seda hneda ruzova fialova oranzova stribrna zlata'.split(
    ' ',
  ),
);
const isColour = (cell: string) =>
  foldLetters(cell)
    .split(/[^\p{L}]+/u)
    .some((word) => colours.has(word));

/** What the cells say to a sense: for it (above 0) or against it. */
export function weigh(sense: Sense, column: Column, traits: Traits, around: Surroundings): number {
  const { filled, variety, length, words, number } = traits;
  if (filled === 0) return 0;
  const isFew = filled < 4;
  const { style, dictionary } = around;
  const shared = around.shared?.get(column);
  const measured = (dimension: Parameters<Traits['measures']>[0]) => {
    if (traits.parts > 0 || traits.pack > 0.3) return -3;
    if (column.unit !== undefined && units[column.unit]?.dimension !== dimension) return -5;
    const fits = traits.measures(dimension, column.unit);
    if (otherUnits(traits, dimension, style) > 0.3) return -5;
    return fits > 0.8 ? (column.unit !== undefined || number < 0.5 ? 1 : 0.2) : fits > 0.4 ? -0.6 : -3;
  };
  switch (sense) {
    case 'key':
      // A row that broke off holds a text there: most cells count, not the longest.
      if (traits.share((cell) => cell.length > 40 || cell.split(/\s+/).length > 4) > 0.5) return -4;
      // A number that comes twice is a fault of a row or two; of few rows it says little.
      return variety > 0.98 ? (isFew ? 0.3 : 1) : variety > 0.9 ? -0.5 : variety > 0.6 || filled < 10 ? -1.2 : -3.5;
    case 'gtin':
      return traits.gtin > 0.9
        ? 3.5
        : traits.gtin > 0.6
          ? 1
          : traits.share((cell) => /^[\d\s-]{7,18}$/.test(cell)) > 0.6
            ? -0.6
            : -4;
    case 'mpn':
    case 'theirNumber':
      return traits.gtin > 0.9 ? -2 : length > 40 ? -4 : variety < 0.3 && !isFew ? -2 : 0.3;
    case 'title':
      if (number > 0.8 || traits.url > 0.5) return -5;
      if (traits.markup > 0.3 || length > 220) return -3;
      if (isFew) return 0;
      // One a family is a title that its variants share; one of several families is a brand, a range or a series.
      if (shared === 'family') return words >= 2 ? 0.8 : -0.4;
      if (shared === 'families') return -5;
      return variety < 0.35 ? -2.6 : words >= 2 ? 0.8 : variety > 0.8 ? -0.2 : -1.2;
    case 'description':
      if (number > 0.8 || traits.url > 0.5) return -5;
      return traits.markup > 0.3 || length > 90 ? 1.6 : length > 45 ? 0.4 : length < 18 ? -2.2 : -0.6;
    case 'brand':
      if (shared === 'row' && !isFew) return -3;
      return number > 0.8 || length > 45 ? -4 : isFew ? 0.2 : variety < 0.5 ? 0.7 : -1.4;
    case 'family':
      if (traits.url > 0.5 || length > 80) return -4;
      return isFew ? 0 : variety < 0.7 ? 0.6 : variety < 0.95 ? -0.6 : -2.6;
    case 'category':
      if (traits.url > 0.5 || traits.gtin > 0.5) return -5;
      if (traits.share((cell) => cell.length <= 2) > 0.8) return -3;
      return traits.path > 0.5 ? 1.6 : isFew ? 0.1 : variety < 0.5 ? 0.5 : -2;
    case 'page':
      return traits.picture > 0.5 ? -4 : traits.url > 0.8 ? 1.5 : traits.url > 0.3 ? 0 : -3.5;
    case 'video':
      return traits.share((cell) => /^https?:.*(?:video|film|watch|\.mp4|\.webm)/i.test(cell)) > 0.6 ? 2.5 : -3;
    case 'pictures':
    case 'morePictures':
      return traits.picture > 0.7 ? 2.5 : traits.url > 0.8 ? 0.8 : number > 0.8 ? -4 : -2;
    case 'colour':
      return number > 0.8 ? -2.2 : traits.share(isColour) > 0.5 ? 2 : length > 40 ? -2.5 : 0.1;
    case 'size':
      if (traits.parts > 0) return 0.2;
      return traits.letterSize > 0.7 ? 1.8 : length > 24 ? -2.5 : 0;
    case 'sizes':
      return traits.pack > 0.3 ? -4 : traits.parts > 1 ? 1.6 : -2.5;
    case 'material':
    case 'pattern':
      return number > 0.5 ? -3 : length > 160 ? -1.5 : 0.3;
    case 'audience':
      return number > 0.8 ? -2.5 : variety < 0.4 || isFew ? 0.4 : -1.5;
    case 'width':
    case 'height':
    case 'depth':
    case 'length':
    case 'diameter':
      return measured('length');
    case 'weight':
      // Grams of a square metre are no weight of the goods.
      return /(?:\/|per|pro|par)\s*m(?:²|2|q|etre)?(?!\p{L})/iu.test(column.name) ? -6 : measured('mass');
    case 'volume':
      return measured('volume');
    case 'power':
      return measured('power');
    case 'voltage':
      return measured('voltage');
    case 'warranty':
      return traits.share((cell) => /\d/.test(cell)) > 0.8 && length < 30 ? 0.5 : -1.5;
    case 'packSize':
      if (traits.pack > 0.3) return -4;
      return traits.whole > 0.8 ? 0.4 : traits.share((cell) => /^\d+\s*\p{L}{0,8}\.?$/u.test(cell)) > 0.7 ? 0.2 : -2.5;
    case 'energyClass':
      return traits.share((cell) => /^[A-G](?:\+{1,3})?$/i.test(cell.trim())) > 0.8 ? 1 : -3;
    case 'origin':
      return traits.share(isCountryWord) > 0.8 ? 2 : number > 0.5 || length > 40 ? -4 : -0.6;
    case 'customsCode':
      return traits.share((cell) => /^[\d\s.]{6,14}$/.test(cell.trim())) > 0.8
        ? traits.gtin > 0.9
          ? -0.5
          : 1.2
        : -3.5;
    case 'care':
      return number > 0.8 ? -4 : 0.2;
    case 'condition':
      return variety < 0.5 && length < 25 ? 0.4 : -1;
    case 'state': {
      const [attribute] = withRole(dictionary, 'state');
      const known = attribute ? traits.share((cell) => parseValue(cell, style, attribute).ok) : 0;
      return number > 0.8 && traits.share((cell) => /^[01]$/.test(cell)) < 0.8
        ? -3
        : known > 0.5 || variety < 0.3 || isFew
          ? 0.4
          : -1.5;
    }
    case 'purchasePrice':
    case 'recommendedPrice':
    case 'price':
    case 'salePrice':
      if (traits.date > 0.5 || traits.share((cell) => /%\s*$/.test(cell)) > 0.5) return -5;
      return traits.money > 0.5 ? 1.4 : number > 0.8 ? 0.5 : -3.5;
    case 'stock':
      return traits.whole > 0.9
        ? 0.6
        : traits.share((cell) =>
              /^[<>+]?\s*\d+\s*\+?$|^(?:ja|nej|nein|yes|no|oui|non|si|nie|tak|kylla|ei|ano|ne)$/i.test(cell.trim()),
            ) > 0.8
          ? 0
          : number > 0.9
            ? -1
            : -3.5;
    case 'saleFrom':
    case 'saleTo':
      return traits.date > 0.6 ? 1 : -3;
    case 'boughtFrom':
      return number > 0.8 ? -4 : variety < 0.5 || isFew ? 0.3 : -1.5;
    case 'options':
      return traits.share((cell) => /:.+/.test(cell)) > 0.5 ? 1 : -3;
    case 'sku':
      return variety > 0.9 ? 0.3 : -2;
    case 'reference':
      return length > 40 || traits.url > 0.5 ? -3 : 0.2;
    case 'substitutes':
    case 'related':
      return length > 120 || traits.url > 0.5 ? -3 : 0.1;
    case 'nothing':
      return 0;
  }
}

/** Senses that cells alone may tell, whatever the name is; each with the weight that a good showing of them has beyond even odds. `at`: place of the column. */
export function seen(traits: Traits, at: number): Heard[] {
  const { filled, variety, length, words, number } = traits;
  if (filled < 3) return [];
  const found: Heard[] = [];
  const add = (sense: Sense, weight: number, why: string) =>
    found.push({ sense, weight: weight - prior, by: 'cells', why });
  if (traits.gtin > 0.9 && variety > 0.5) add('gtin', 1.4, 'its cells are true GTINs');
  if (traits.picture > 0.8) add('pictures', 1.2, 'its cells name pictures');
  else if (traits.url > 0.9 && traits.share((cell) => /\.(?:pdf|zip|docx?|xlsx?|mp4|step|dwg)$/i.test(cell)) < 0.1)
    add('page', 1.5, 'its cells are addresses');
  if (traits.markup > 0.4) add('description', 1.4, 'its cells are texts with markup');
  else if (length > 140 && words > 18) add('description', 0.7, 'its cells are long texts');
  if (traits.letterSize > 0.9 && traits.letters < 0.9 && traits.share((cell) => /[sml]/i.test(cell)) > 0.7)
    add('size', 1.6, 'its cells are letter sizes');
  if (traits.path > 0.7 && variety < 0.6) add('category', 0.8, 'its cells are paths of a tree');
  if (traits.share(isColour) > 0.75 && words < 3 && number < 0.1) add('colour', 0.4, 'its cells name colours');
  if (filled > 3 && traits.share((cell) => cell.length > 3 && isCountryWord(cell)) > 0.9)
    add('origin', 0.4, 'its cells name countries');
  if (
    at < 3 &&
    traits.share((cell) => /^\d*[.,]\d+$/.test(cell)) < 0.1 &&
    variety > 0.98 &&
    filled > 5 &&
    words < 1.5 &&
    length < 25 &&
    traits.share((cell) => /\d/.test(cell)) > 0.9 &&
    traits.gtin < 0.5 &&
    traits.url < 0.1
  )
    add('key', -0.1, 'every row has its own');
  if (
    variety > 0.85 &&
    filled > 5 &&
    words >= 2.5 &&
    length > 12 &&
    length < 90 &&
    traits.letters > 0.95 &&
    number < 0.1 &&
    traits.markup < 0.1 &&
    traits.url < 0.1
  )
    add('title', 0.5, 'every row has a few words of its own');
  return found;
}
