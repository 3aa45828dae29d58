/** Thirty suppliers’ files of other trades with what each of their columns is. */

/** Suppliers’ files, made up: headers as they are written, cells of a kind, and what each column is. */
export interface LabelledFile {
  name: string;
  language: string;
  isOwn?: boolean;
  /** Currency the company keeps its prices in. */
  currency: string;
  /** “Header ~ kind of cells ~ what it is [~ unit or currency it is read in]”. */
  columns: string;
}

export const labelledFiles: readonly LabelledFile[] = [
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
export const laterFiles: readonly LabelledFile[] = [
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
