/** What is made of the columns of suppliers’ files of many trades and languages, judged against what they are. */
import { describe, expect, it } from 'vitest';
import { startSet } from '../catalog/index.js';
import { suggestColumns } from './index.js';

/** Suppliers’ files, made up: headers as they are written, cells of a kind, and what each column is. */
interface LabelledFile {
  name: string;
  language: string;
  isOwn?: boolean;
  /** Currency the company keeps its prices in. */
  currency: string;
  /** “Header ~ kind of cells ~ what it is [~ unit or currency it is read in]”. */
  columns: string;
}

const labelledFiles: LabelledFile[] = [
  {
    name: 'knitwear',
    language: 'de-DE',
    currency: 'EUR',
    columns: `Art.-Nr.~code~key|Modell~series~family|Artikelbezeichnung~title~title|Farbe~colour~colour|Gr.~size~-|Größe~size~size|Material~material~material|EAN~ean~gtin|EK-Preis netto~price~purchasePrice|UVP inkl. MwSt.~price~recommendedPrice|Währung~eur~-|Lagerbestand~stock~stock|VPE~few~-|Zolltarifnr.~hs~customsCode|Ursprungsland~country~origin|Bild 1~picture~pictures|Bild 2~picture~pictures|Bemerkung~empty~-`,
  },
  {
    name: 'cookware',
    language: 'fr-FR',
    currency: 'EUR',
    columns: `Réf.~code~key|Désignation~title~title|Gamme~series~family|Marque~brand~brand|Code barres~ean~gtin|PA HT (€)~price~purchasePrice~EUR|PVC TTC (€)~price~recommendedPrice~EUR|Poids (kg)~decimal~weight~kg|Diamètre (cm)~figure~diameter~cm|Hauteur (cm)~figure~height~cm|Matière~material~material|Coloris~colour~colour|Colisage~few~-|Pays d’origine~country~origin|Descriptif~long~description|URL image~pictureUrl~pictures|Stock dispo~stock~stock|Délai~few~-`,
  },
  {
    name: 'bicycle parts',
    language: 'nl-NL',
    currency: 'EUR',
    columns: `Artikelcode~code~key|Omschrijving~title~title|Merk~brand~brand|EAN-code~ean~gtin|Artikelgroep~group~category|Inkoopprijs~price~purchasePrice|Adviesprijs incl. btw~price~recommendedPrice|Voorraad~stock~stock|Gewicht (g)~figure~weight~g|Kleur~colour~colour|Maat~size~size|Aantal per doos~few~-|EAN omdoos~ean~-|Land van herkomst~country~origin|Garantie~months~warranty|Levertijd~few~-`,
  },
  {
    name: 'fishing tackle',
    language: 'fi-FI',
    currency: 'EUR',
    columns: `Tuotenumero~code~key|Tuotenimi~title~title|Tuoteryhmä~group~category|Merkki~brand~brand|Viivakoodi~ean~gtin|Paino (g)~figure~weight~g|Pituus (cm)~figure~length~cm|Väri~colour~colour|Ostohinta alv 0 %~price~purchasePrice|Suositushinta sis. alv~price~recommendedPrice|Saldo~stock~stock|Kuvaus~long~description|Alkuperämaa~country~origin|Tullinimike~hs~customsCode|Myyntierä~few~-|Kuva~picture~pictures`,
  },
  {
    name: 'stationery',
    language: 'pl-PL',
    currency: 'PLN',
    columns: `Indeks~code~key|Nazwa towaru~title~title|Producent~brand~brand|Kod EAN~ean~gtin|Kategoria~path~category|Cena netto (zł)~price~purchasePrice~PLN|Sugerowana cena brutto~price~recommendedPrice|Stan magazynowy~stock~stock|J.m.~unit~-|Szerokość [mm]~figure~width~mm|Wysokość [mm]~figure~height~mm|Kolor~colour~colour|Ilość w kartonie~few~-|Kod kreskowy kartonu~ean~-|Opis produktu~html~description|Zdjęcie~pictureUrl~pictures|VAT~percent~-`,
  },
  {
    name: 'glassware',
    language: 'cs-CZ',
    currency: 'CZK',
    columns: `Kód zboží~code~key|Název~title~title|Výrobce~brand~brand|EAN~ean~gtin|Skupina~group~category|Objem (ml)~figure~volume~ml|Výška (mm)~figure~height~mm|Průměr (mm)~figure~diameter~mm|Hmotnost (g)~figure~weight~g|VO cena bez DPH (Kč)~price~purchasePrice~CZK|MOC s DPH (Kč)~price~recommendedPrice~CZK|Skladem~stock~stock|Země původu~country~origin|Popis~long~description|Barva~colour~colour|Ks v kartonu~few~-`,
  },
  {
    name: 'skin care',
    language: 'it-IT',
    currency: 'EUR',
    columns: `Cod. art.~code~key|Descrizione articolo~title~title|Linea~series~family|Marchio~brand~brand|Codice a barre~ean~gtin|Contenuto~ml~volume|Prezzo netto~price~purchasePrice|Prezzo al pubblico IVA incl.~price~recommendedPrice|Giacenza~stock~stock|Pezzi per cartone~few~-|Immagine~picture~pictures|Descrizione estesa~long~description|Paese di origine~country~origin|Nomenclatura combinata~hs~customsCode|Note~empty~-|Novità~yes~-`,
  },
  {
    name: 'pet food',
    language: 'en-GB',
    currency: 'GBP',
    columns: `Product code~code~key|Product description~title~title|Range~series~family|Brand~brand~brand|Unit barcode~ean~gtin|Case barcode~ean~-|Pack~pack~-|Trade price ex VAT (£)~price~purchasePrice~GBP|RRP inc VAT (£)~price~recommendedPrice~GBP|Qty available~stock~stock|Case size~few~-|Commodity code~hs~customsCode|Country of origin~country~origin|Long description~long~description|Main image URL~pictureUrl~pictures|Shelf life~months~-|MOQ~few~-`,
  },
  {
    name: 'toys',
    language: 'sv-SE',
    currency: 'SEK',
    columns: `Lev.artnr~code~key|Benämning~title~title|Varumärke~brand~brand|EAN~ean~gtin|Varugrupp~group~category|Inköpspris exkl. moms~price~purchasePrice|Rek.pris inkl. moms~price~recommendedPrice|Lagersaldo~stock~stock|Färg~colour~colour|Bredd (cm)~figure~width~cm|Djup (cm)~figure~depth~cm|Höjd (cm)~figure~height~cm|Vikt (kg)~decimal~weight~kg|Antal per kartong~few~-|Ursprungsland~country~origin|Bildlänk~pictureUrl~pictures|Nyhet~yes~-|Beskrivning~long~description`,
  },
  {
    name: 'candles',
    language: 'da-DK',
    currency: 'DKK',
    columns: `Varenr.~code~key|Varetekst~title~title|Serie~series~family|Farve~colour~colour|Stregkode~ean~gtin|Indkøbspris kr.~price~purchasePrice~DKK|Vejl. udsalgspris kr.~price~recommendedPrice~DKK|Lagerbeholdning~stock~stock|Højde mm~figure~height~mm|Diameter mm~figure~diameter~mm|Vægt g~figure~weight~g|Brændetid~hours~-|Kolli~few~-|Oprindelsesland~country~origin|Billede~picture~pictures|Toldtarifnr.~hs~customsCode`,
  },
  {
    name: 'tents',
    language: 'nb-NO',
    currency: 'NOK',
    columns: `Varenummer~code~key|Varebenevnelse~title~title|Merke~brand~brand|Strekkode~ean~gtin|Produktgruppe~group~category|Innpris eks. mva~price~purchasePrice|Veil. pris inkl. mva~price~recommendedPrice|Beholdning~stock~stock|Farge~colour~colour|Vekt (kg)~decimal~weight~kg|Lengde (cm)~figure~length~cm|Pakkmål~sizes~-|Beskrivelse~long~description|Opprinnelsesland~country~origin|Bilde~pictureUrl~pictures|Leveringstid~few~-`,
  },
  {
    name: 'tiles',
    language: 'es-ES',
    currency: 'EUR',
    columns: `Referencia~code~key|Denominación~title~title|Colección~series~family|Familia de productos~group~-|Formato~sizes~-|Color~colour~colour|Código de barras~ean~gtin|Precio neto €/m²~price~-|PVP IVA incluido~price~recommendedPrice|Coste~price~purchasePrice|Existencias~stock~stock|Peso caja~figure~-|Espesor (mm)~figure~-|País de origen~country~origin|Imagen~picture~pictures|Observaciones~empty~-`,
  },
  {
    name: 'shoes',
    language: 'pt-PT',
    currency: 'EUR',
    columns: `Ref.~code~key|Designação~title~title|Modelo~series~family|Cor~colour~colour|Tamanho~shoe~size|Material~material~material|Código de barras~ean~gtin|Preço de custo~price~purchasePrice|PVP c/ IVA~price~recommendedPrice|Stock~stock~stock|Género~gender~audience|Estação~season~-|Marca~brand~brand|Foto~pictureUrl~pictures|Descrição~long~description|Código pautal~hs~customsCode`,
  },
  {
    name: 'lamps',
    language: 'de-AT',
    currency: 'EUR',
    columns: `Bestellnr.~code~key|Kurztext~title~title|Langtext~html~description|Leistung [W]~figure~power~w|Spannung [V]~figure~voltage~v|Energieeffizienzklasse~energy~energyClass|Schutzart~ip~-|Lichtstrom [lm]~figure~-|Gewicht [kg]~decimal~weight~kg|Maße L x B x H [mm]~threeSizes~sizes~mm|GTIN~ean~gtin|Händler-EK~price~purchasePrice|Listenpreis~price~recommendedPrice|Warengruppe~group~category|Status~state~state|Lieferzeit~few~-|ABC-Klasse~abc~-`,
  },
  {
    name: 'workwear',
    language: 'sv-SE',
    currency: 'SEK',
    isOwn: true,
    columns: `Artikelnr~code~key|Produktnamn~title~title|Modell~series~family|Storlek~size~size|Färg~colour~colour|Pris inkl moms~price~price|Kostpris~price~purchasePrice|Leverantör~brand~boughtFrom|Leverantörens artnr~code2~theirNumber|Saldo~stock~stock|EAN~ean~gtin|Kategori~path~category|Hyllplats~bin~-|Tvättråd~care~care|Material~material~material|Kön~gender~audience`,
  },
  {
    name: 'coffee',
    language: 'en-IE',
    currency: 'EUR',
    isOwn: true,
    columns: `SKU~code~key|Name~title~title|Category~path~category|Price~price~price|Cost~price~purchasePrice|Stock~stock~stock|Barcode~ean~gtin|Weight (g)~figure~weight~g|Image 1~pictureUrl~pictures|Image 2~pictureUrl~pictures|Image 3~pictureUrl~pictures|Body~html~description|Origin~country~origin|Status~state~state|Product page~url~page|Roast date~date~-`,
  },
  {
    name: 'tools',
    language: 'de-CH',
    currency: 'CHF',
    columns: `Artikel~code~key|Bezeichnung 1~title~title|Hersteller~brand~brand|Herst.-Artikelnr.~code2~mpn|EAN Stück~ean~gtin|EAN Karton~ean~-|Nettopreis CHF~price~purchasePrice~CHF|Bruttopreis CHF~price~-|Menge verfügbar~stock~stock|Gewicht netto kg~decimal~weight~kg|Länge mm~figure~length~mm|Breite mm~figure~width~mm|Höhe mm~figure~height~mm|Garantie (Monate)~figure~warranty|Warentarifnummer~hs~customsCode|Produktbild~picture~pictures|Datenblatt~pdf~-`,
  },
  {
    name: 'wine',
    language: 'fr-BE',
    currency: 'EUR',
    columns: `Code article~code~key|Libellé~title~title|Producteur~brand~brand|Millésime~year~-|Contenance (cl)~figure~volume~cl|Gencod~ean~gtin|Tarif net HT~price~purchasePrice|Prix public TTC~price~recommendedPrice|Qté en stock~stock~stock|PCB~few~-|Pays~country~origin|Rayon~group~category|Visuel~picture~pictures|Degré~percent~-|Texte~long~description`,
  },
  {
    name: 'audio',
    language: 'en-US',
    currency: 'USD',
    columns: `Item #~code~key|Item Name~title~title|Vendor~brand~brand|Mfr Part No~code2~mpn|UPC~ean~gtin|Dealer Cost ($)~price~purchasePrice~USD|MSRP ($)~price~recommendedPrice~USD|Inventory~stock~stock|Color~colour~colour|Wattage~watt~power|Product Weight (lb)~decimal~weight|Master Carton Qty~few~-|HS Code~hs~customsCode|Warranty~months~warranty|Image Link~pictureUrl~pictures|Features~long~-|Discontinued~yes~state`,
  },
  {
    name: 'towels',
    language: 'nl-BE',
    currency: 'EUR',
    columns: `Art.nr.~code~key|Benaming~title~title|Collectie~series~family|Afmeting~sizes~sizes|Kleur~colour~colour|Samenstelling~material~material|Gramgewicht~gsm~-|Barcode~ean~gtin|Inkoop excl. btw~price~purchasePrice|Verkoopprijs incl. btw~price~recommendedPrice|Voorraad~stock~stock|Wasvoorschrift~care~care|Foto~picture~pictures|Land van oorsprong~country~origin|Verpakking~words~-|Statistieknummer~hs~customsCode`,
  },
];

/** Written after the others, and read once before anything was made of what they showed. */
const laterFiles: LabelledFile[] = [
  {
    name: 'spectacles',
    language: 'it-IT',
    currency: 'EUR',
    columns: `CODICE~code~key|DESCRIZIONE~title~title|COLLEZIONE~series~family|COLORE~colour~colour|CALIBRO~figure~-|EAN13~ean~gtin|PREZZO ACQUISTO~price~purchasePrice|PREZZO CONSIGLIATO~price~recommendedPrice|DISPONIBILITÀ~stock~stock|MATERIALE~material~material|MADE IN~country~origin|IMG1~pictureUrl~pictures|IMG2~pictureUrl~pictures|GARANZIA (MESI)~figure~warranty|MARCA~brand~brand|PESO (g)~figure~weight~g`,
  },
  {
    name: 'garden machines',
    language: 'pl-PL',
    currency: 'PLN',
    columns: `Symbol~code~key|Pełna nazwa~title~title|Marka~brand~brand|Kod producenta~code2~mpn|EAN~ean~gtin|Cena zakupu netto~price~purchasePrice|Cena detaliczna brutto~price~recommendedPrice|Dostępność~stock~stock|Moc [W]~figure~power~w|Napięcie [V]~figure~voltage~v|Waga [kg]~decimal~weight~kg|Długość [cm]~figure~length~cm|Gwarancja~months~warranty|Kraj pochodzenia~country~origin|Link do zdjęcia~pictureUrl~pictures|Kod CN~hs~customsCode|Opis~html~description`,
  },
  {
    name: 'ceramics',
    language: 'pt-BR',
    currency: 'BRL',
    columns: `Código~code~key|Descrição do produto~title~title|Linha~series~family|Cor~colour~colour|Altura (cm)~figure~height~cm|Largura (cm)~figure~width~cm|Profundidade (cm)~figure~depth~cm|Peso (kg)~decimal~weight~kg|Código de barras~ean~gtin|Preço de custo (R$)~price~purchasePrice~BRL|Preço sugerido (R$)~price~recommendedPrice~BRL|Estoque~stock~stock|Categoria~path~category|Foto~picture~pictures|NCM~hs~customsCode|Caixa com~few~-`,
  },
  {
    name: 'dog collars',
    language: 'en-AU',
    currency: 'AUD',
    columns: `item_code~code~key|item_name~title~title|parent_sku~series~family|colour~colour~colour|size~size~size|wholesale_ex_gst~price~purchasePrice|rrp_inc_gst~price~recommendedPrice|soh~stock~stock|barcode~ean~gtin|inner_qty~few~-|brand~brand~brand|material~material~material|weight_g~figure~weight~g|made_in~country~origin|image_url~pictureUrl~pictures|long_desc~html~description`,
  },
  {
    name: 'bed linen',
    language: 'de-DE',
    currency: 'EUR',
    columns: `Artikel-Nr. / Item no.~code~key|Bezeichnung / Description~title~title|Dessin~series~pattern|Farbstellung~colour~colour|Abmessung~sizes~sizes|Qualität~material~-|Materialzusammensetzung~material~material|Pflegehinweis~care~care|EAN-Code~ean~gtin|EK netto €~price~purchasePrice~EUR|UVP €~price~recommendedPrice~EUR|Verfügbar~stock~stock|VE~few~-|Bild-URL~pictureUrl~pictures|Langbeschreibung~long~description|Statistische Warennummer~hs~customsCode|Marke~brand~brand`,
  },
  {
    name: 'knives',
    language: 'fr-CH',
    currency: 'CHF',
    columns: `N° d'article~code~key|Nom de l'article~title~title|Marque~brand~brand|Code EAN~ean~gtin|Prix d'achat HT~price~purchasePrice|Prix de vente conseillé TTC~price~recommendedPrice|Stock~stock~stock|Longueur de lame (mm)~figure~-|Longueur totale (mm)~figure~length~mm|Poids (g)~figure~weight~g|Garantie~months~warranty|Photo 1~pictureUrl~pictures|Photo 2~pictureUrl~pictures|Description longue~long~description|Pays de fabrication~country~origin|Conditionnement~few~-`,
  },
  {
    name: 'yarn',
    language: 'da-DK',
    currency: 'DKK',
    columns: `Varenummer~code~key|Navn~title~title|Kvalitet~series~-|Farvenavn~colour~colour|Løbelængde (m)~figure~-|Vægt (g)~figure~weight~g|EAN-nummer~ean~gtin|Kostpris ekskl. moms~price~purchasePrice|Vejledende pris inkl. moms~price~recommendedPrice|På lager~stock~stock|Fiberindhold~material~material|Vaskeanvisning~care~care|Leverandør~brand~-|Billedlink~pictureUrl~pictures|Antal pr. pose~few~-|Varegruppe~group~category`,
  },
  {
    name: 'climbing',
    language: 'cs-CZ',
    currency: 'CZK',
    columns: `Objednací číslo~code~key|Název výrobku~title~title|Značka~brand~brand|Barva~colour~colour|Velikost~size~size|Délka (m)~figure~length~m|Čárový kód~ean~gtin|Nákupní cena~price~purchasePrice|Doporučená cena vč. DPH~price~recommendedPrice|Stav skladu~stock~stock|Materiál~material~material|Hmotnost [g]~figure~weight~g|Obrázek~pictureUrl~pictures|Záruka~months~warranty|Min. odběr~few~-|Celní kód~hs~customsCode`,
  },
  {
    name: 'kitchen paper',
    language: 'nl-NL',
    currency: 'EUR',
    columns: `Bestelnr~code~key|Productnaam~title~title|Merk~brand~brand|EAN CE~ean~gtin|EAN HE~ean~-|Inhoud per verpakking~pack~-|Nettoprijs~price~purchasePrice|Consumentenadviesprijs~price~recommendedPrice|Voorraadstatus~stock~stock|Lengte (cm)~figure~length~cm|Breedte (cm)~figure~width~cm|Gewicht (kg)~decimal~weight~kg|Omschrijving lang~long~description|Afbeelding~picture~pictures|Intrastatcode~hs~customsCode|Assortiment~group~category`,
  },
  {
    name: 'instruments',
    language: 'es-MX',
    currency: 'MXN',
    columns: `Clave~code~key|Nombre del producto~title~title|Marca~brand~brand|Modelo del fabricante~code2~mpn|Código de barras~ean~gtin|Costo sin IVA~price~purchasePrice|Precio público con IVA~price~recommendedPrice|Inventario~stock~stock|Color~colour~colour|Largo (cm)~figure~length~cm|Ancho (cm)~figure~width~cm|Alto (cm)~figure~height~cm|Peso (kg)~decimal~weight~kg|Garantía~months~warranty|Imagen principal~pictureUrl~pictures|Descripción~html~description|Fracción arancelaria~hs~customsCode`,
  },
];

/** Cells of a kind, the same every time. */
function cellsOf(kind: string, rows: number): string[] {
  const pick = (list: readonly string[], i: number, by = 1) => list[(i * by) % list.length] ?? '';
  const make: Record<string, (i: number) => string> = {
    code: (i) => `K${4100 + i * 7}-${pick(['A', 'B', 'C'], i)}`,
    code2: (i) => `${900 + i * 13}/${pick(['x', 'y', 'z'], i)}${i}`,
    ean: (i) => withDigit(`40012${String(3400000 + i * 37)}`),
    title: (i) =>
      `${pick(['Alva', 'Brin', 'Corra', 'Dunst', 'Elmo'], Math.floor(i / 4))} ${pick(['klein', 'groß', 'mini', 'maxi'], i)} ${pick(['rund', 'eckig', 'flach'], i)} ${i}`,
    series: (i) => pick(['Alva', 'Brin', 'Corra', 'Dunst', 'Elmo'], Math.floor(i / 4)),
    brand: (i) => pick(['Halvorn', 'Tessaly', 'Quillmark'], Math.floor(i / 7)),
    group: (i) => pick(['Nord', 'Basis', 'Plus'], Math.floor(i / 6)),
    path: (i) => pick(['Haus > Küche', 'Haus > Bad', 'Garten > Werkzeug'], Math.floor(i / 6)),
    colour: (i) => pick(['schwarz', 'rot', 'bleu', 'grön', 'white', 'sininen'], i),
    size: (i) => pick(['S', 'M', 'L', 'XL'], i),
    shoe: (i) => String(36 + (i % 10)),
    material: (i) => pick(['100 % Baumwolle', 'Leinen', '80 % Wolle, 20 % Polyamid'], i),
    price: (i) => `${8 + i * 3},${pick(['90', '50', '00'], i)}`,
    stock: (i) => String((i * 17) % 140),
    few: (i) => pick(['6', '12', '24'], Math.floor(i / 3)),
    decimal: (i) => `0,${2 + (i % 7)}`,
    figure: (i) => String(12 + i * 5),
    watt: (i) => `${20 + i * 5} W`,
    ml: (i) => `${50 * (1 + (i % 4))} ml`,
    gsm: (i) => `${400 + (i % 3) * 50} g/m²`,
    pack: (i) => pick(['12 x 85 g', '6 x 400 g', '24 x 85 g'], i),
    sizes: (i) => pick(['50 x 100 cm', '70 x 140 cm', '30 x 50 cm'], i),
    threeSizes: (i) => `${120 + i}x${80 + i}x${40 + i}`,
    hs: (i) => pick(['61101130', '73239300', '94051140'], Math.floor(i / 5)),
    country: (i) => pick(['Portugal', 'DE', 'Italia', 'Sverige'], Math.floor(i / 2)),
    picture: (i) => `k${4100 + i * 7}.jpg`,
    pictureUrl: (i) => `https://files.example/k${4100 + i * 7}.jpg`,
    pdf: (i) => `https://files.example/k${4100 + i * 7}.pdf`,
    url: (i) => `https://shop.example/p/${i}`,
    long: (i) =>
      `Ein Stück für jeden Tag, das hält, was es verspricht, und dabei gut aussieht; Ausführung ${i}, geprüft und sorgfältig verpackt für den Versand.`,
    html: (i) => `<p>Gut gemacht, Ausführung <b>${i}</b>.</p><ul><li>fest</li></ul>`,
    empty: () => '',
    eur: () => 'EUR',
    unit: () => 'szt',
    percent: (i) => pick(['23 %', '8 %'], i),
    yes: (i) => pick(['ja', 'nej'], i),
    months: (i) => pick(['24 mån', '36 mån'], i),
    hours: (i) => pick(['12 h', '40 h'], i),
    energy: (i) => pick(['E', 'F', 'D'], i),
    ip: (i) => pick(['IP44', 'IP20'], i),
    state: (i) => pick(['active', 'new', 'discontinued'], i),
    abc: (i) => pick(['A', 'B', 'C'], i),
    care: (i) => pick(['40°', '60° Kochwäsche nicht möglich'], i),
    gender: (i) => pick(['dam', 'herr'], i),
    season: (i) => pick(['SS27', 'FW26'], i),
    bin: (i) => `H${i % 9}-${i % 4}`,
    date: (i) => `2026-1${i % 3}-0${1 + (i % 8)}`,
    year: (i) => pick(['2021', '2022', '2023'], i),
    words: (i) => pick(['doos', 'zakje'], i),
  };
  const cell = make[kind];
  if (!cell) throw new Error(`There is no kind of cells “${kind}”`);
  return Array.from({ length: rows }, (_, i) => cell(i));
}

/** Twelve figures with their check digit (GS1 General Specifications, 7.9). */
function withDigit(figures: string): string {
  const sum = [...figures].reduce((total, figure, i) => total + Number(figure) * (i % 2 === 0 ? 1 : 3), 0);
  return `${figures}${(10 - (sum % 10)) % 10}`;
}

const dictionary = new Map(startSet.map((attribute) => [attribute.key, attribute]));
const rows = 24;

interface Judged {
  header: string;
  expected: string;
  is: string;
  score: number;
  /** Of what is right, whether it is read in the unit or currency it is in. */
  figures: boolean | undefined;
}

function judge({ columns, language, currency, isOwn = false }: (typeof labelledFiles)[number]): Judged[] {
  const listed = columns.split('|').map((column) => column.split('~'));
  const cells = listed.map(([, kind = '']) => cellsOf(kind, rows));
  const found = suggestColumns({
    columns: listed.map(([header = '']) => header),
    sample: Array.from({ length: rows }, (_, i) => cells.map((column) => column[i] ?? '')),
    dictionary,
    language,
    languages: [language],
    currency,
    isOwn,
    style: { decimal: ',', dateOrder: 'dmy' },
    pricesWithVat: true,
  });
  return listed.map(([header = '', , expected = '', figures]) => {
    const own = found.filter(({ column }) => column === header);
    const target = own[0]?.target;
    const is =
      own.length > 1
        ? 'sizes'
        : target?.to === 'attribute'
          ? target.attribute.replace('morePictures', 'pictures')
          : target === undefined || target.to === 'ignore'
            ? '-'
            : target.to;
    const read =
      target?.to === 'attribute'
        ? (target.unit ?? target.currency)
        : target?.to === 'price'
          ? target.currency
          : undefined;
    return {
      header,
      expected,
      is,
      score: own[0]?.score ?? 0,
      figures: figures === undefined || is !== expected ? undefined : read === figures,
    };
  });
}

const all = [...labelledFiles, ...laterFiles].flatMap(judge);
const share = (some: readonly unknown[], of: readonly unknown[] = all) => some.length / of.length;

describe('columns of thirty files in fourteen languages', () => {
  it('are known, and few are taken for what they are not', () => {
    const wrong = all.filter(({ is, expected }) => is !== expected && is !== '-');
    expect(share(all.filter(({ is, expected }) => is === expected)), JSON.stringify(wrong)).toBeGreaterThan(0.95);
    expect(share(wrong)).toBeLessThan(0.02);
  });
  it('are read in the unit or currency that header, neighbour or cell says', () => {
    const told = all.filter(({ figures }) => figures !== undefined);
    expect(told.length).toBeGreaterThan(35);
    expect(told.filter(({ figures }) => !figures)).toEqual([]);
  });
  it('are suggested with a score that means what it says: nothing below even odds, and the surest are right', () => {
    const suggested = all.filter(({ is }) => is !== '-');
    expect(suggested.filter(({ score }) => score < 50)).toEqual([]);
    const surest = suggested.filter(({ score }) => score >= 95);
    expect(
      share(
        surest.filter(({ is, expected }) => is === expected),
        surest,
      ),
    ).toBeGreaterThan(0.97);
  });
});

describe('traps', () => {
  const target = (header: string, cells: string[], beside: Record<string, string[]> = {}) => {
    const columns = [header, ...Object.keys(beside)];
    const lists = [cells, ...Object.values(beside)];
    const [found] = suggestColumns({
      columns,
      sample: cells.map((_, i) => lists.map((list) => list[i] ?? '')),
      dictionary,
      language: 'en-GB',
      languages: ['en-GB'],
      currency: 'GBP',
      isOwn: false,
    });
    return found?.target.to === 'attribute' ? found.target.attribute : found?.target.to;
  };
  const gtins = cellsOf('ean', 12);
  it.each([
    ['Carton EAN', gtins],
    ['Code EAN colis', gtins],
    ['GTIN Umkarton', gtins],
    ['Pack', cellsOf('pack', 12)],
    ['Class', cellsOf('abc', 12)],
    ['Weight (g/m²)', ['180', '220', '300', '180']],
    ['Grammage', ['180 g/m²', '220 g/m²', '300 g/m²', '180 g/m²']],
    ['Old price', ['12.00', '14.00', '18.00']],
    ['Gewicht Palette (kg)', ['120', '240', '300']],
  ])('%s is of nothing that the article has', (header, cells) => expect(target(header, cells)).toBe('ignore'));
  it('what rows share is no title, and what each has of its own is', () => {
    expect(target('Model', cellsOf('series', 20))).toBe('family');
    expect(target('Product name', cellsOf('title', 20))).toBe('title');
  });
  it('sizes of a cloth are no diameter', () =>
    expect(target('Size', ['140 x 200', '200 x 220', '140 x 220', '90 x 200'])).not.toBe('diameter'));
  it('true numbers are known whatever they are called, and others are not', () => {
    expect(target('Column 7', gtins)).toBe('gtin');
    expect(
      target(
        'Column 7',
        gtins.map((gtin) => `${gtin.slice(0, -1)}${(Number(gtin.at(-1)) + 1) % 10}`),
      ),
    ).not.toBe('gtin');
  });
  it('of several prices the lower is what goods cost, and none is taken for it that is the highest', () => {
    const asked = (first: string, second: string, by: number) => {
      const found = suggestColumns({
        columns: ['SKU', first, second],
        sample: [10, 24.9, 7.5, 130, 18].map((amount, i) => [`A${i}`, amount.toFixed(2), (amount * by).toFixed(2)]),
        dictionary,
        language: 'en-GB',
        languages: ['en-GB'],
        currency: 'GBP',
        isOwn: false,
      });
      return found.slice(1).map(({ target: to }) => (to.to === 'attribute' ? to.attribute : to.to));
    };
    expect(asked('Price 1', 'Price 2', 1.9)).toEqual(['purchasePrice', 'recommendedPrice']);
    expect(asked('Price A', 'Price B', 0.5)).toEqual(['recommendedPrice', 'purchasePrice']);
    expect(asked('Cost price', 'RRP', 0.5)).toEqual(['ignore', 'ignore']);
    expect(asked('Price', 'Freight', 0.01)).toEqual(['purchasePrice', 'ignore']);
  });
  it('numbered pictures feed one list together', () => {
    const found = suggestColumns({
      columns: ['SKU', 'Image 1', 'Image 2', 'Image 3'],
      sample: cellsOf('picture', 8).map((name, i) => [`A${i}`, name, name, name]),
      dictionary,
      language: 'en-GB',
    });
    expect(found.slice(1).map(({ target: { to } }) => to)).toEqual(['attribute', 'attribute', 'attribute']);
  });
  it('an own price without VAT waits for its rate where ours are with it', () => {
    const [, price] = suggestColumns({
      columns: ['SKU', 'Pris exkl. moms'],
      sample: [
        ['A', '100'],
        ['B', '250'],
      ],
      dictionary,
      language: 'sv-SE',
      currency: 'SEK',
      isOwn: true,
      pricesWithVat: true,
    });
    expect(price?.target).toEqual({ to: 'price', kind: 'regular', currency: 'SEK', vat: { is: 'without', rate: '' } });
  });
});
