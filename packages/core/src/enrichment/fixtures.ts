/** A dictionary of many trades, as the labelled texts are read with. */
import type { SoughtAttribute } from './model.js';

const lists = (text: string): Record<string, string[]> =>
  Object.fromEntries(
    text
      .trim()
      .split('\n')
      .map((line) => {
        const [value = '', words = ''] = line.trim().split(/: ?/u);
        return [value, [value, ...words.split('|').filter(Boolean)]];
      }),
  );

export const sought: SoughtAttribute[] = [
  {
    key: 'colour',
    label: 'Colour',
    aliases: ['color', 'Farbe', 'Färg'],
    kind: 'choice',
    spellings: lists(`
      black: schwarz|svart
      white: weiß|vit
      grey: gray|grau|grå|anthracite|anthrazit|antracit
      red: rot|röd|burgundy|bordeaux|vinröd
      blue: blau|blå
      navy: navy blue|marine|marineblau|marinblå
      green: grün|grön|emerald
      yellow: gelb|gul|mustard
      orange: apelsin
      pink: rosa|rose
      purple: lila|violet|violett
      brown: braun|brun
      beige: cream|creme|cremefarben|gräddvit
      turquoise: türkis|turkos
      silver: silber
      gold: guld
      amber: bernstein
      transparent: klar|clear`),
  },
  {
    key: 'material',
    label: 'Material',
    aliases: ['fabric', 'Stoff', 'tyg'],
    kind: 'choice',
    spellings: lists(`
      stoneware: Steinzeug|stengods
      porcelain: Porzellan|porslin
      glass: Glas|glas
      terracotta: Terrakotta|terrakotta
      cotton: organic cotton|Baumwolle|Bio-Baumwolle|bomull|ekologisk bomull
      linen: Leinen|linne
      wool: merino wool|Wolle|ull
      silk: Seide|siden|silke
      velvet: Samt|sammet
      satin: Satin
      denim: Denim
      felt: Filz|filt
      leather: Leder|läder
      straw: Stroh|halm
      jute: Jute
      coir: Kokos|kokos|coconut fibre
      rattan: Rattan|rotting
      bamboo: Bambus|bambu
      cork: Kork|kork
      oak: Eiche|ek
      beech: Buche|bok
      pine: Kiefer|furu
      walnut: Nussbaum|valnöt
      wood: wooden|Holz|trä
      steel: Stahl|stål
      stainless steel: Edelstahl|rostfritt stål
      cast iron: Gusseisen|gjutjärn
      brass: Messing|mässing
      copper: Kupfer|koppar
      aluminium: aluminum|Aluminium
      zinc: Zink|zink
      metal: Metall|metall
      gold: Gold|guld
      silver: Silber|silver
      plastic: Kunststoff|Plastik|plast
      rubber: Gummi|gummi
      silicone: Silikon|silikon
      nylon: Nylon
      nitrile: Nitril|nitril
      paper: Papier|papper`),
  },
  {
    key: 'size',
    label: 'Size',
    aliases: ['Größe', 'storlek'],
    kind: 'choice',
    spellings: lists(
      `
      XS:
      S:
      M:
      L:
      XL:
      XXL: 2XL
      one size: Einheitsgröße`,
    ),
  },
  {
    key: 'wearer',
    label: 'Wearer',
    aliases: ['for whom'],
    kind: 'choice',
    spellings: lists(`
      women: women's|ladies|Damen|dam
      men: men's|Herren|herr
      children: children's|kids|Kinder|barn`),
  },
  {
    key: 'base',
    label: 'Base',
    aliases: ['Sockel', 'sockel'],
    kind: 'choice',
    spellings: lists(`
      E27: 
      E14: 
      GU10: 
      B22: `),
  },
  { key: 'power', label: 'Power', aliases: ['wattage', 'Leistung', 'effekt'], kind: 'measure', dimension: 'power' },
  {
    key: 'volume',
    label: 'Volume',
    aliases: ['capacity', 'Inhalt', 'Volumen', 'volym'],
    kind: 'measure',
    dimension: 'volume',
  },
  {
    key: 'weight',
    label: 'Weight',
    aliases: ['Gewicht', 'vikt', 'Leergewicht', 'Eigengewicht', 'egenvikt'],
    kind: 'measure',
    dimension: 'mass',
  },
  { key: 'length', label: 'Length', aliases: ['Länge', 'längd'], kind: 'measure', dimension: 'length' },
  { key: 'width', label: 'Width', aliases: ['Breite', 'bredd'], kind: 'measure', dimension: 'length' },
  { key: 'height', label: 'Height', aliases: ['Höhe', 'höjd'], kind: 'measure', dimension: 'length' },
  {
    key: 'diameter',
    label: 'Diameter',
    aliases: ['Ø', 'Durchmesser', 'diameter'],
    kind: 'measure',
    dimension: 'length',
  },
  {
    key: 'colourTemperature',
    label: 'Colour temperature',
    aliases: ['Farbtemperatur', 'färgtemperatur'],
    kind: 'measure',
    dimension: 'temperature',
  },
  {
    key: 'brightness',
    label: 'Brightness',
    aliases: ['Lichtstrom', 'ljusflöde'],
    kind: 'measure',
    dimension: 'luminousFlux',
  },
  { key: 'voltage', label: 'Voltage', aliases: ['Spannung', 'spänning'], kind: 'measure', dimension: 'voltage' },
  { key: 'charge', label: 'Charge', aliases: ['Kapazität', 'kapacitet'], kind: 'measure', dimension: 'charge' },
  { key: 'pieces', label: 'Pieces in a pack', aliases: ['Stückzahl', 'antal'], kind: 'count' },
  { key: 'sizes', label: 'Sizes', aliases: ['Maße', 'mått'], kind: 'sizes', dimension: 'length' },
  {
    key: 'dishwasher',
    label: 'Dishwasher safe',
    aliases: ['spülmaschinenfest', 'spülmaschinengeeignet', 'tål maskindisk'],
    kind: 'yesNo',
  },
  { key: 'dimmable', label: 'Dimmable', aliases: ['dimmbar', 'dimbar'], kind: 'yesNo' },
  { key: 'lid', label: 'Lid', aliases: ['with lid', 'mit Deckel', 'Deckel', 'med lock', 'lock'], kind: 'yesNo' },
  { key: 'waterproof', label: 'Waterproof', aliases: ['wasserdicht', 'vattentät'], kind: 'yesNo' },
  { key: 'machineWashable', label: 'Machine washable', aliases: ['maschinenwaschbar', 'maskintvätt'], kind: 'yesNo' },
];
