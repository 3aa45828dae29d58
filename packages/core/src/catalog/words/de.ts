/** What columns of goods are called in German, without accents; parted by bars. */
import type { Words } from './model.js';

export const de: Words = {
  key: 'artikelnummer|artikelnr|artikel nr|artikel no|art nr|artnr|art no|artikel|bestellnummer|bestellnr|bestell nr|best nr|produktnummer|produkt nr|produktcode|artikelcode|warennummer|sachnummer|teilenummer|katalognummer|nummer|nr|interne nummer|artikel id|referenz',
  family:
    'serie|produktfamilie|familie|baureihe|kollektion|modell|modellreihe|linie|produktlinie|vaterartikel|hauptartikel|elternartikel|stammartikel|programm',
  options: 'optionen|varianten',
  title:
    'bezeichnung|produktname|artikelbezeichnung|artikelname|produktbezeichnung|kurzbezeichnung|kurztext|name|titel|kurzbeschreibung|bezeichnung 1|produkttitel|artikeltext kurz|artikelbeschreibung|produkt|ware',
  description:
    'beschreibung|artikeltext|langtext|produktbeschreibung|langbeschreibung|text|details|beschreibungstext|werbetext|produkttext|webtext|ausfuhrliche beschreibung',
  brand: 'marke|hersteller|markenname|produzent|fabrikat|herstellername|label',
  category:
    'warengruppe|kategorie|produktgruppe|artikelgruppe|sortiment|produktkategorie|rubrik|gruppe|produktart|produkttyp|hauptgruppe|warenkategorie|abteilung|kategorien',
  gtin: 'ean code|strichcode|ean nummer|ean nr|gtin ean|barcode|gtin nummer|eannummer|gtinnummer',
  mpn: 'hersteller nr|herstellernummer|hersteller artikelnummer|hersteller art nr|herstellernr|herstellerartikelnummer|hersteller teilenummer|herst nr|herst artnr|oem nummer|hersteller artikel nr',
  state: 'zustand|lieferstatus|status|verfugbarkeit|artikelstatus|aktiv|lieferbarkeit|auslaufartikel',
  page: 'seite|link|produktlink|produktseite|url|webseite|shoplink|deeplink|produkt url|web',
  pictures:
    'bild|bilder|foto|bilddatei|bild url|hauptbild|bildlink|abbildung|produktbild|bildname|fotos|bildadresse|artikelbild',
  morePictures: 'weitere bilder|zusatzbilder|bildergalerie|galerie|zusatzliche bilder|weiteres bild',
  colour: 'farbe|farbton|farbname|farbbezeichnung|hauptfarbe|farbvariante',
  size: 'grosse|konfektionsgrosse|kleidergrosse|schuhgrosse|grossen',
  sizes: 'masse|abmessungen|abmessung|mass|dimensionen|masse l x b x h|l x b x h|produktmasse|grosse l x b x h',
  material:
    'werkstoff|material|materialien|stoff|materialzusammensetzung|obermaterial|gewebe|zusammensetzung|faserzusammensetzung|fasergehalt',
  pattern: 'muster|dekor|motiv|druck',
  width: 'breite|b',
  height: 'hohe|h',
  depth: 'tiefe|t',
  length: 'lange|l',
  diameter: 'durchmesser|dm|durchm',
  weight: 'gewicht|nettogewicht|gewicht netto|artikelgewicht|produktgewicht|masse kg',
  volume: 'volumen|inhalt|fassungsvermogen|fullmenge|kapazitat|rauminhalt|nettoinhalt',
  power: 'leistung|max leistung|nennleistung|leistungsaufnahme|wattzahl|watt',
  voltage: 'spannung|nennspannung|volt|betriebsspannung',
  energyClass: 'energieklasse|energieeffizienzklasse|energieeffizienz|energielabel',
  condition: 'artikelzustand|warenzustand|produktzustand',
  packSize:
    'stuckzahl|stuck pro packung|anzahl teile|packungsgrosse|teile|anzahl im set|stuck je packung|packungsinhalt|inhalt stuck|teilezahl',
  origin: 'ursprungsland|herkunftsland|herkunft|ursprung|herstellungsland|land|produktionsland',
  customsCode:
    'zolltarifnummer|zolltarifnr|zolltarif nr|warentarifnummer|statistische warennummer|stat warennr|zollnummer|intrastat|zolltarif|taric',
  warranty: 'garantie|garantiezeit|gewahrleistung|garantiedauer|garantie monate|garantie jahre',
  care: 'pflege|pflegehinweis|pflegehinweise|waschanleitung|pflegeanleitung',
  audience: 'geschlecht|zielgruppe|altersgruppe|fur wen',
  purchasePrice:
    'ek netto|netto|einkaufspreis|nettopreis|ek|ek preis|handlerpreis|handler ek|einstandspreis|preis netto|wiederverkauferpreis|grosshandelspreis|hek|nettoeinkaufspreis|ihr preis|kundenpreis',
  recommendedPrice:
    'uvp|empfohlener preis|unverbindliche preisempfehlung|empf vk|empfohlener verkaufspreis|listenpreis|uvp brutto|ladenpreis|endverbraucherpreis|uvpe|empf verkaufspreis',
  price: 'preis|verkaufspreis|vk|vk preis|vk brutto|bruttopreis|einzelpreis|stuckpreis|shoppreis|endpreis|vk netto',
  salePrice: 'angebot|angebotspreis|aktionspreis|sonderpreis|rabattpreis|reduzierter preis',
  saleFrom: 'angebot ab|aktion von|angebot von|aktionsbeginn',
  saleTo: 'angebot bis|aktion bis|aktionsende',
  stock:
    'bestand|lagerbestand|menge|lager|verfugbar|verfugbare menge|vorrat|lagermenge|verfugbarer bestand|verfugbarkeit',
  boughtFrom: 'lieferant|lieferantenname|bezogen von',
  theirNumber:
    'lieferantennummer|lieferanten artikelnummer|lieferantenartikelnummer|lief art nr|lieferanten art nr|lief artnr|artikelnummer lieferant|lieferanten nr',
  nothing:
    'bemerkung|anmerkung|notiz|hinweis|kommentar|mindestbestellmenge|mbm|mindestmenge|rabatt|mwst|mwst satz|steuersatz|ust|lieferzeit|stand|geandert|angelegt|position|pos|zeile|lagerplatz|lagerort|gultig ab|gultig bis|meldebestand|ve|vpe|verpackungseinheit|bestelleinheit|palettenmenge|karton|kartoninhalt|neu|saison|einheit|mengeneinheit|me|wahrung|preiseinheit|grundpreis|katalogseite|seite im katalog|gefahrgut|datum|anderungsdatum|interne notiz|rabattgruppe|staffel|abc|abc klasse|lagerklasse|warenklasse|sortierung',
};
