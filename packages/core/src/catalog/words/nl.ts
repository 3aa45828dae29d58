/** What columns of goods are called in Dutch, without accents; parted by bars. */
import type { Words } from './model.js';

export const nl: Words = {
  key: 'artikelnummer|artikelnr|artikel nr|artikelcode|artnr|art nr|art code|bestelnummer|bestelnr|productnummer|productcode|product nr|nummer|referentie',
  family: 'serie|familie|collectie|model|productfamilie|productlijn|lijn|hoofdartikel|reeks',
  options: 'opties|varianten',
  title:
    'naam|productnaam|titel|omschrijving|artikelomschrijving|artikelnaam|productomschrijving|benaming|korte omschrijving|product|producttitel',
  description:
    'beschrijving|productbeschrijving|lange omschrijving|lange beschrijving|tekst|producttekst|webtekst|details|uitgebreide omschrijving',
  brand: 'merk|fabrikant|merknaam|producent',
  category: 'categorie|productgroep|artikelgroep|productcategorie|rubriek|producttype|groep|afdeling|assortiment',
  gtin: 'ean code|barcode|ean nummer|streepjescode|eancode|gtin nummer',
  mpn: 'fabrikant nummer|fabrikantcode|artikelnummer fabrikant|fabrikantnummer|fabrikant artikelnummer|fabrikant nr|art nr fabrikant',
  state: 'status|beschikbaarheid|actief|artikelstatus|leverbaarheid|voorraadstatus',
  page: 'link|pagina|productlink|webpagina|productpagina|url|web',
  pictures:
    'afbeelding|afbeeldingen|foto|foto s|plaatje|hoofdafbeelding|productafbeelding|afbeelding url|beeld|productfoto',
  morePictures: 'meer afbeeldingen|extra afbeeldingen|galerij|extra foto s|overige afbeeldingen',
  colour: 'kleur|kleurnaam|hoofdkleur|tint|kleurstelling',
  size: 'maat|maten|kledingmaat|schoenmaat',
  sizes: 'afmetingen|maten l x b x h|afmeting|l x b x h|formaat',
  material: 'materiaal|stof|samenstelling|materialen|materiaalsamenstelling|vezelsamenstelling',
  pattern: 'patroon|dessin|motief|print|decor',
  width: 'breedte',
  height: 'hoogte',
  depth: 'diepte',
  length: 'lengte',
  diameter: 'diameter|doorsnede|doorsnee',
  weight: 'gewicht|nettogewicht|productgewicht',
  volume: 'inhoud|volume|capaciteit',
  power: 'vermogen|max vermogen|nominaal vermogen|wattage',
  voltage: 'spanning|voltage|volt',
  energyClass: 'energieklasse|energielabel|energie efficientieklasse',
  condition: 'conditie|staat van het product',
  packSize: 'aantal stuks|stuks per verpakking|aantal in verpakking|aantal delen|verpakkingsinhoud',
  origin: 'land van herkomst|herkomst|land van oorsprong|oorsprong|productieland|land',
  customsCode: 'douanecode|hs code|goederencode|intrastatcode|gn code|statistieknummer|tariefcode',
  warranty: 'garantie|garantieperiode|garantietermijn',
  care: 'onderhoud|wasvoorschrift|wasinstructies|verzorging|onderhoudsadvies',
  audience: 'geslacht|doelgroep|leeftijdsgroep',
  purchasePrice: 'inkoopprijs|nettoprijs|netto|kostprijs|inkoop|groothandelsprijs|dealerprijs|netto inkoop|uw prijs',
  recommendedPrice:
    'adviesprijs|adviesverkoopprijs|consumentenprijs|catalogusprijs|aanbevolen prijs|winkelprijs|advies verkoopprijs',
  price: 'prijs|verkoopprijs|stuksprijs|brutoprijs|eenheidsprijs|winkelverkoopprijs',
  salePrice: 'actieprijs|aanbiedingsprijs|kortingsprijs|speciale prijs|uitverkoopprijs',
  saleFrom: 'actie van|aanbieding van|actie start',
  saleTo: 'actie tot|aanbieding tot|actie einde',
  stock:
    'voorraad|aantal|op voorraad|beschikbaar|beschikbare voorraad|voorraadaantal|vrije voorraad|voorraadstatus|beschikbaarheid',
  boughtFrom: 'leverancier|naam leverancier',
  theirNumber: 'artikelnummer leverancier|leveranciersnummer|leverancierscode|art nr leverancier|lev artikelnummer',
  nothing:
    'opmerking|notitie|commentaar|minimum bestelling|min bestelaantal|korting|btw|btw tarief|levertijd|bijgewerkt|aangemaakt|positie|regel|magazijnlocatie|locatie|geldig vanaf|geldig tot|bestelpunt|aantal per doos|omdoos|doos|nieuw|seizoen|eenheid|valuta|prijseenheid|cataloguspagina|gevaarlijke stoffen|datum|gewijzigd|kortingsgroep|verpakkingseenheid|abc klasse|verpakking',
};
