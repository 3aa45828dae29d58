/** Words of the trade in every language that is known here, and what the words beside them make of them. */
import { cs } from './cs.js';
import { da } from './da.js';
import { de } from './de.js';
import { en } from './en.js';
import { es } from './es.js';
import { fi } from './fi.js';
import { fr } from './fr.js';
import { it } from './it.js';
import type { Meaning, Sense, Words } from './model.js';
import { nb } from './nb.js';
import { nl } from './nl.js';
import { pl } from './pl.js';
import { pt } from './pt.js';
import { sv } from './sv.js';

export { type Meaning, type Sense, foldHeader } from './model.js';

const languages: Record<string, Words> = { en, de, sv, da, nb, nl, fr, es, it, pl, pt, fi, cs };

/** By phrase, and by the same without its spaces. */
export const meanings: ReadonlyMap<string, readonly Meaning[]> = (() => {
  const all = new Map<string, Meaning[]>();
  const put = (phrase: string, meaning: Meaning) => {
    const known = all.get(phrase) ?? [];
    if (known.some(({ sense, language }) => sense === meaning.sense && language === meaning.language)) return;
    all.set(phrase, [...known, meaning]);
  };
  for (const [language, words] of Object.entries(languages))
    for (const [sense, phrases] of Object.entries(words) as [Sense, string][])
      for (const phrase of phrases.split('|')) {
        put(phrase, { sense, language });
        if (phrase.includes(' ') && phrase.length > 6) put(phrase.replaceAll(' ', ''), { sense, language });
      }
  return all;
})();

/** All phrases for one of these, whatever the language; letters alone are left out. */
export const phrasesFor = (senses: ReadonlySet<Sense>): string[] =>
  [...meanings].flatMap(([phrase, list]) =>
    phrase.length > 1 && list.some(({ sense }) => senses.has(sense)) ? [phrase] : [],
  );

const setOf = (words: string): ReadonlySet<string> => new Set(words.split('|'));

/** Words beside others that say what an amount is: without tax, with tax. */
export const withoutTax = setOf(
  'excl|exkl|ekskl|ex|exc|ht|hors|sin|bez|netto|net|neto|zzgl|ohne|uten|eks|zonder|esclusa|escl|sem|veroton|exclusive|excluding|liquido|u',
);
export const withTax = setOf(
  'incl|inkl|ttc|inc|brutto|gross|bruto|inklusive|inclusa|incluido|incluida|con|com|sis|verollinen|including|toutes|m|z|included|lordo',
);
export const taxWords = setOf(
  'vat|tax|moms|mva|mwst|ust|btw|tva|iva|dph|alv|taxe|taxes|podatku|gst|hst|afa|pdv|ddv|kdv',
);
/** Headers of columns that say what currency, or what unit, the figures beside them are in. */
export const currencyWords = setOf(
  'currency|currency code|price currency|iso currency|curr|wahrung|wahrungscode|whg|valuta|valutakod|valutakode|munt|muntcode|devise|code devise|monnaie|moneda|divisa|codice valuta|waluta|kod waluty|moeda|divisas|valuutta|valuuttakoodi|mena|kod meny',
);
export const unitWords = setOf(
  'unit|units|uom|unit of measure|einheit|masseinheit|mengeneinheit|gewichtseinheit|me|enhet|mattenhet|enhed|maleenhed|eenheid|meeteenheid|unite|unite de mesure|unidad|unidad de medida|unita|unita di misura|um|jednostka|jednostka miary|jm|unidade|unidade de medida|yksikko|mittayksikko|jednotka|merna jednotka|mj',
);
/** Of what goods are packed in for transport: its numbers and sizes are not the goods’ own. */
export const outerWords = setOf(
  'carton|cartons|karton|umkarton|kartong|kartonger|outer|master|case|inner|colis|kolli|colli|pallet|palette|paletten|palle|pall|omdoos|doos|caja|cajas|cartone|cartoni|zbiorcze|zbiorczy|zbiorczego|laatikko|laatikon|lava|lavan|krt|ctn|shipper|gebinde|vpe|ve|pakning|ytterkartong|yderkarton|kartonu|paleta|palety|palett|overpack|masterbox|export|caixa|fardo|balik|paleta|bancale|umverpackung|transport',
);
export const makerWords = setOf(
  'hersteller|herst|manufacturer|manufacturers|manufactureur|mfr|mfg|maker|fabrikant|fabricant|fabricante|produttore|fabbricante|producent|producenta|producentens|vyrobce|valmistaja|valmistajan|tillverkare|tillverkarens|produsent|produsentens|constructeur|oem|fab',
);
export const supplierWords = setOf(
  'supplier|suppliers|vendor|lieferant|lieferanten|lief|lev|leverantor|leverantorens|leverandor|leverandorens|leverancier|fournisseur|fourn|proveedor|fornitore|dostawca|dostawcy|fornecedor|toimittaja|toimittajan|toim|dodavatel|dodavatele',
);
/** Of what is sold next to what was: old prices and numbers are no longer those. */
export const pastWords = setOf(
  'old|alt|alte|alter|gammal|gamla|gammel|oud|oude|ancien|ancienne|antiguo|anterior|vecchio|stary|stara|antigo|vanha|previous|former|replaced|puvodni|forrige|tidigare|bisher|vorher',
);
/** First parts of compounds that say nothing of their own: “Produktbezeichnung”. */
export const goodsWords = setOf(
  'produkt|product|produit|producto|prodotto|produto|artikel|article|articulo|artikkel|articolo|artigo|waren|ware|vare|varu|item|goods|tuote|tuotteen|nimike|zbozi|vyrobku|towaru|produktu|produktets|varens|haupt|main|shop|web|total|totale|totaal|totalt|gesamt|overall|insgesamt',
);
