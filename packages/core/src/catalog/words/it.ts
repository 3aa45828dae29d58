/** What columns of goods are called in Italian, without accents; parted by bars. */
import type { Words } from './model.js';

export const it: Words = {
  key: 'codice|cod|codice articolo|cod articolo|cod art|codice prodotto|numero articolo|riferimento|rif|articolo|sku',
  family: 'serie|famiglia|collezione|modello|gamma|linea|famiglia prodotto|codice padre',
  options: 'opzioni|varianti',
  title:
    'nome|titolo|denominazione|nome prodotto|nome articolo|designazione|prodotto|descrizione breve|descrizione articolo|nome del prodotto|descrizione|descrizione prodotto',
  description:
    'descrizione|descrizione lunga|descrizione prodotto|testo|dettagli|descrizione estesa|descrizione completa|descrizione del prodotto',
  brand: 'marca|marchio|produttore|fabbricante|brand',
  category: 'categoria|gruppo|gruppo merceologico|tipo prodotto|reparto|tipologia|settore|categorie|gruppo prodotto',
  gtin: 'codice a barre|codice ean|barcode|cod ean|codice barre|ean codice',
  mpn: 'codice produttore|codice fabbricante|cod produttore|riferimento produttore|cod fabbricante',
  state: 'stato|disponibilita|attivo|stato articolo|disponibile',
  page: 'link|pagina|pagina prodotto|link prodotto|url|indirizzo web|scheda prodotto',
  pictures: 'immagine|immagini|foto|url immagine|immagine principale|fotografia|link immagine',
  morePictures: 'altre immagini|immagini aggiuntive|galleria|altre foto',
  colour: 'colore|nome colore|tonalita|tinta|colore principale',
  size: 'taglia|misura|taglie|numero scarpa',
  sizes: 'dimensioni|misure|dimensione',
  material: 'materiale|materiali|composizione|tessuto',
  pattern: 'fantasia|motivo|stampa|decoro|disegno',
  width: 'larghezza|larg',
  height: 'altezza|alt',
  depth: 'profondita|prof',
  length: 'lunghezza|lung',
  diameter: 'diametro|diam',
  weight: 'peso|peso netto|peso prodotto',
  volume: 'volume|contenuto|capacita',
  power: 'potenza|potenza max|potenza nominale|watt',
  voltage: 'tensione|voltaggio|tensione nominale',
  energyClass: 'classe energetica|etichetta energetica|efficienza energetica',
  condition: 'condizione|condizioni|stato del prodotto',
  packSize: 'numero pezzi|pezzi|pezzi per confezione|numero di pezzi|quantita confezione',
  origin: 'paese di origine|origine|paese d origine|prodotto in|paese',
  customsCode: 'codice doganale|voce doganale|codice hs|taric|nomenclatura combinata|codice taric',
  warranty: 'garanzia|durata garanzia|periodo di garanzia',
  care: 'cura|manutenzione|istruzioni di lavaggio|lavaggio|istruzioni di cura',
  audience: 'genere|sesso|target|fascia d eta|destinatario',
  purchasePrice:
    'prezzo di acquisto|prezzo acquisto|prezzo netto|costo|prezzo d acquisto|prezzo ingrosso|prezzo rivenditore|netto|vostro prezzo',
  recommendedPrice:
    'prezzo consigliato|prezzo al pubblico|prezzo di listino|pvp|prezzo consumatore|prezzo di vendita consigliato|listino',
  price: 'prezzo|prezzo di vendita|prezzo unitario|prezzo vendita|prezzo lordo|tariffa',
  salePrice: 'prezzo offerta|prezzo scontato|prezzo promozionale|prezzo speciale|offerta',
  saleFrom: 'offerta dal|inizio offerta',
  saleTo: 'offerta al|fine offerta|offerta fino al',
  stock:
    'giacenza|quantita|disponibilita magazzino|magazzino|scorta|stock|qta|quantita disponibile|esistenza|disponibilita|disponibile|pezzi disponibili',
  boughtFrom: 'fornitore|nome fornitore',
  theirNumber: 'codice fornitore|riferimento fornitore|cod fornitore|rif fornitore',
  nothing:
    'note|nota|osservazioni|commento|ordine minimo|quantita minima|sconto|iva|aliquota iva|tempi di consegna|aggiornato|creato|posizione|riga|ubicazione|valido dal|valido al|punto di riordino|pezzi per cartone|cartone|imballo|novita|stagione|unita|um|valuta|unita di prezzo|pagina catalogo|data|modificato|unita di misura|unita di vendita|classe abc|confezione',
};
