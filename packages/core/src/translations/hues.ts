/** Colours by the words for them, in the languages of the trade: names of shades, lighter and darker ones, and compounds. */
import { converter } from 'culori';
import { foldLetters } from '../values/index.js';

/** In OKLCh: lightness 0 to 1, how colourful (0 is grey, 0.2 much), and which colour, in degrees. */
export interface Hue {
  l: number;
  c: number;
  h: number;
}

export interface Hues {
  /** How a word looks; undefined where it is no colour. */
  of(word: string): Hue | undefined;
  /** It is a usual word for a colour, and no fancy name of one. */
  isUsual(word: string): boolean;
}

/** What goods of a colour look like, which is paler than the colour at its purest: words of a line mean one in English, German, Swedish, Danish, Norwegian, Dutch, French, Spanish, Italian, Polish, Portuguese, Finnish and Czech. */
const basics = `
#1c1c1c black schwarz svart sort zwart noir noire negro negra nero nera czarny czarna preto preta musta cerna cerny
#b9a5d6 lavender lavendel lavande
#fafafa white weiss vit vitt hvid hvit wit blanc blanche blanco blanca bianco bianca bialy biala branco branca valkoinen bila bily
#c0272d red rot rod rott rood rouge rojo roja rosso rossa czerwony czerwona vermelho vermelha punainen cervena cerveny
#2f7d3b green grun gron gront gronn groen vert verte verde zielony zielona vihrea zelena zeleny
#2456a6 blue blau bla blatt blaa blauw bleu bleue azul azzurro blu niebieski niebieska sininen modra modry
#f2c530 yellow gelb gul gult geel jaune amarillo amarilla giallo gialla zolty zolta amarelo amarela keltainen zluta zluty
#ec7f25 orange oranje naranja arancione pomaranczowy laranja oranssi oranzova
#7b3f8c purple violet lila violett paars morado violeta viola fioletowy roxo violetti fialova
#f0a0b8 pink rosa roze rose rozowy vaaleanpunainen pinkki ruzova
#6b4428 brown braun brun bruin marron marrone brazowy castanho ruskea hneda
#8a8a8a grey gray grau gra gratt grijs gris grigio grigia szary cinza cinzento harmaa seda sedy
#c8c8cc silver silber zilver argent plata argento srebrny prata hopea stribrna
#c9a227 gold golden guld gull goud dore oro dorado zloty ouro kulta zlata
#d9c7a3 beige beigefarben
#1f2a4d navy marine marineblau marinbla
#2fa8a8 turquoise turkis turkos turkoois turquesa turchese turkusowy turkoosi tyrkysova
#33373b anthracite anthrazit antracit antraciet
#f4ecd0 cream creme gradd graddvit kremowy panna
#6d1f2f bordeaux burgundy weinrot vinrod bordo
#6b6b2a olive oliv olivgrun olivgron oliva oliwkowy
#9c8f5f khaki kaki
#1d5c6b petrol teal petroleum
#a9d8b8 mint minze mynta mintgrun
#9bae86 sage salbei salvia salie
#d8c08f sand sandfarben sabbia arena
#9b9389 stone stein sten pierre
#5b6b3a moss moos mossa mousse musgo
#f4f1e8 ivory elfenbein elfenben avorio marfil ivoire
#b5503c terracotta terrakotta
#b04a24 rust rost ruggine
#b8863b ochre ocker ockra ocre ocra
#2b2d42 ink tinte
#c5ccce mist nebel dimma fog
#7a1f3d wine wein vin vino
#d9a441 straw stroh halm straw
#98473e brick ziegel tegel brique
#dcd3bf oat oatmeal hafer havre
#4c3a5e dusk dammerung skymning
#3f7f91 sea hav mer mar
#4f7a43 fern farn ormbunke
#a39a8c natural natur naturell naturel naturale
#6b6d70 slate schiefer skiffer ardoise
#3d3a38 soot russ sot
#ece8df chalk kreide krita craie
#5f2f4a plum pflaume plommon prune
`;

/** Said of a colour: what it does to its lightness. */
const shades: Readonly<Record<string, number>> = {
  ...of(0.14, 'light pale hell ljus lys licht clair claire claro chiaro jasny vaalea svetla blass soft pastel pastell'),
  ...of(-0.14, 'dark deep dunkel mork donker fonce foncee oscuro scuro ciemny escuro tumma tmava tief'),
};

function of(by: number, words: string): Record<string, number> {
  return Object.fromEntries(words.split(' ').map((word) => [word, by]));
}

const toHue = converter('oklch');
function read(hex: string): Hue | undefined {
  const hue = toHue(hex);
  return hue && { l: hue.l, c: hue.c, h: hue.h ?? 0 };
}

/** As people name colours: which one it is counts more than how light or how colourful. */
const shares = { light: 0.3, colourful: 0.5, angle: 2.5, greyness: 0.1 };
/** Below it is grey, from the second on it is a colour. */
const grey = { below: 0.02, from: 0.035 };

/** 0 where they look the same; up to 0.1 one name would do for both. */
export function distance(one: Hue, other: Hue): number {
  const light = shares.light * (one.l - other.l);
  const colourful = shares.colourful * (one.c - other.c);
  const half = ((one.h - other.h) * Math.PI) / 360;
  const angle = shares.angle * 2 * Math.sqrt(one.c * other.c) * Math.sin(half);
  const isGrey = Math.min(one.c, other.c) < grey.below && Math.max(one.c, other.c) > grey.from;
  return Math.hypot(light, colourful, angle) + (isGrey ? shares.greyness : 0);
}

let loading: Promise<Hues> | undefined;

/** Some thirty thousand names of shades in English are loaded when it is first asked for. */
export function loadHues(): Promise<Hues> {
  loading ??= import('color-name-list').then(({ colornames }) => {
    const [usual, fancy] = [new Map<string, Hue>(), new Map<string, Hue>()];
    for (const { name, hex } of colornames) {
      const hue = read(hex);
      if (hue) fancy.set(foldLetters(name), hue);
    }
    for (const line of basics.trim().split('\n')) {
      const [hex = '', ...words] = line.split(' ');
      const hue = read(hex);
      if (hue) for (const word of words) usual.set(word, hue);
    }
    return { of: (word) => hueOf(word, usual, fancy), isUsual: (word) => usual.has(foldLetters(word).trim()) };
  });
  return loading;
}

const leastPart = 3;
const leastTail = 4;

type Known = ReadonlyMap<string, Hue>;

function hueOf(text: string, usual: Known, fancy: Known): Hue | undefined {
  const folded = foldLetters(text).trim();
  const whole = usual.get(folded) ?? fancy.get(folded);
  if (whole) return whole;
  const words = folded.match(/\p{L}+/gu) ?? [];
  let by = 0;
  let found: Hue | undefined;
  for (const word of words) {
    const shade = shades[word];
    if (shade !== undefined) by += shade;
    // Of “moss green” the first says more.
    else found ??= usual.get(word) ?? fancy.get(word) ?? ofCompound(word, usual);
  }
  return found && lighter(found, by);
}

const lighter = (hue: Hue, by: number): Hue => ({ ...hue, l: Math.min(1, Math.max(0, hue.l + by)) });

/** “Dunkelgrün”, “himmelblau”: the second word, as the first makes it. */
function ofCompound(word: string, usual: Known): Hue | undefined {
  for (let at = leastPart; at <= word.length - leastPart; at++) {
    const [left, right] = [word.slice(0, at), usual.get(word.slice(at))];
    if (!right) continue;
    const isSaid = usual.has(left) || shades[left] !== undefined;
    // “Multicoloured” is no kind of red.
    if (isSaid || word.length - at >= leastTail) return usual.get(left) ?? lighter(right, shades[left] ?? 0);
  }
  return undefined;
}
