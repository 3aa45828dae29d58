/** The demo's pictures, drawn here: plain shapes on plain ground. Same name, same picture. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';

const colours: Record<string, string> = {
  moss: '#5c7a4a',
  chalk: '#efeae0',
  slate: '#6d7782',
  ochre: '#c8993a',
  ink: '#2c3e63',
  soot: '#3a3735',
  rust: '#a6512f',
  plum: '#6a3160',
  sage: '#9caf88',
  terracotta: '#b9633f',
  terrac: '#b9633f',
  oatmeal: '#d8c7a5',
  celadon: '#9cc2ae',
  opal: '#dfe6e4',
  white: '#f4f2ee',
  black: '#2b2a29',
  brass: '#b08a3c',
  natura: '#c9a878',
  oak: '#b98d58',
  anodis: '#aab2b8',
};
const grounds = ['#f7f5f0', '#f7f5f0', '#f7f5f0', '#f7f5f0', '#e8d7c8'];

type Shape = (colour: string) => string;
const shapes: Record<string, Shape> = {
  pot: (c) =>
    `<path d="M250 300h300l-45 330q-4 30-34 30H329q-30 0-34-30z" fill="${c}"/><rect x="230" y="250" width="340" height="70" rx="12" fill="${c}"/><rect x="230" y="300" width="340" height="20" fill="#0002"/>`,
  lamp: (c) =>
    `<path d="M280 240h240l60 200H220z" fill="${c}"/><rect x="390" y="440" width="20" height="190" fill="#555"/><ellipse cx="400" cy="640" rx="110" ry="22" fill="#555"/><ellipse cx="400" cy="444" rx="150" ry="16" fill="#fff3b0"/>`,
  bar: (c) =>
    `<rect x="140" y="360" width="520" height="60" rx="14" fill="${c}"/><rect x="165" y="408" width="470" height="14" rx="7" fill="#fff3b0"/><path d="M640 390q60 0 60 90t-40 150" stroke="#444" stroke-width="9" fill="none"/>`,
  packet: (c) =>
    `<rect x="270" y="200" width="260" height="400" rx="10" fill="${c}"/><rect x="270" y="200" width="260" height="46" fill="#0002"/><circle cx="400" cy="420" r="80" fill="#fff8"/><path d="M400 490V380m0 40q-60-10-60-60q60 0 60 60m0 20q60-10 60-60q-60 0-60 60" stroke="#2f6f49" stroke-width="10" fill="#5c9a6a"/>`,
  bag: (c) =>
    `<path d="M240 260q160-50 320 0l20 380H220z" fill="${c}"/><rect x="290" y="370" width="220" height="150" rx="10" fill="#fff8"/>`,
  bottle: (c) =>
    `<path d="M350 330h100q50 30 50 100v210q0 20-20 20H320q-20 0-20-20V430q0-70 50-100z" fill="${c}"/><rect x="370" y="220" width="60" height="110" fill="${c}"/><path d="M370 220h120v34H370z" fill="#444"/>`,
  can: (c) =>
    `<rect x="290" y="330" width="230" height="290" rx="16" fill="${c}"/><path d="M290 540L130 340l34-22 126 130z" fill="${c}"/><path d="M340 330q0-110 130-110t130 170-80 190" stroke="${c}" stroke-width="26" fill="none"/>`,
  glove: (c) =>
    `<path d="M280 640V420l-40-130q30-26 58 8l32 80V220q34-20 56 0v150V196q36-20 58 0v180V220q34-18 54 2v200V300q34-14 48 8v210q0 60-50 122z" fill="${c}"/>`,
  stand: (c) =>
    `<rect x="220" y="300" width="360" height="36" rx="8" fill="${c}"/><path d="M260 336l-50 320M540 336l50 320M400 336v300" stroke="${c}" stroke-width="24"/>`,
  box: (c) =>
    `<path d="M220 340l180-80 180 80v250l-180 80-180-80z" fill="${c}"/><path d="M220 340l180 80 180-80M400 420v250" stroke="#0003" stroke-width="8" fill="none"/>`,
};

const byPrefix: [RegExp, keyof typeof shapes][] = [
  [/^(bw-|ms-(hol|mar|tar|cor|dun|fen|ske|ove|bec|row))/, 'pot'],
  [/^kg-|^ms-sd/, 'packet'],
  [/^ms-(daw|lb|bar)/, 'bar'],
  [/^ll-|^ms-(pl|gp|tl|per|lam)/, 'lamp'],
  [/^ms-mx|^ms-cp/, 'bag'],
  [/^ms-(fd|ps|wm|hy|lc|ls)/, 'bottle'],
  [/^ms-wc|^ms-ik/, 'can'],
  [/^ms-(gl|ap)/, 'glove'],
  [/^ms-(sh|st|tr|fs)/, 'stand'],
];

/** Look of a name: shape, colour, ground and size. Names alike share one drawing. */
function lookOf(name: string) {
  let hash = 7;
  for (const letter of name) hash = (Math.imul(hash, 31) + letter.charCodeAt(0)) >>> 0;
  const shape = byPrefix.find(([pattern]) => pattern.test(name))?.[1] ?? 'box';
  const word = Object.keys(colours).find((colour) => name.includes(colour));
  const palette = ['#7a8f6a', '#8a6a4f', '#6b7c93', '#b08a3c', '#7d5a72'];
  const colour = word ? (colours[word] ?? '#888') : (palette[hash % palette.length] ?? '#888');
  const small = name.includes('-thumb');
  const wide = name.includes('-wide');
  const side = small ? 320 : [800, 1000, 1200][hash % 3];
  return {
    shape,
    colour,
    ground: grounds[(hash >>> 4) % grounds.length] ?? '#fff',
    width: side ?? 800,
    height: wide ? Math.round((side ?? 800) * 0.62) : (side ?? 800),
  };
}

/** A few pictures are named in the sheets and exist nowhere: a channel cannot load them. */
function isMissing(name: string): boolean {
  return /-(10-mo|m-chalk|2-5-l-moss|60-300-uk)\.jpg$/.test(name);
}

/** Draws every picture that there is into a directory; answers their names. */
export async function drawPictures(names: readonly string[], directory: string): Promise<string[]> {
  await mkdir(directory, { recursive: true });
  const looks = new Map<string, Promise<Buffer>>();
  const draw = (name: string) => {
    const { shape, colour, ground, width, height } = lookOf(name);
    const format = /\.(png|webp)$/.exec(name)?.[1] ?? 'jpeg';
    const key = JSON.stringify([shape, colour, ground, width, height, format]);
    let drawing = looks.get(key);
    if (!drawing) {
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 800 800" preserveAspectRatio="xMidYMid slice" width="${width}" height="${height}"><rect x="-400" width="1600" height="800" fill="${ground}"/><ellipse cx="400" cy="668" rx="190" ry="18" fill="#0001"/>${shapes[shape]?.(colour) ?? ''}</svg>`;
      const image = sharp(Buffer.from(svg));
      drawing = (
        format === 'png' ? image.png({ palette: true }) : format === 'webp' ? image.webp() : image.jpeg({ quality: 78 })
      ).toBuffer();
      looks.set(key, drawing);
    }
    return drawing;
  };
  const wanted = names.filter((name) => !isMissing(name));
  for (let from = 0; from < wanted.length; from += 16)
    await Promise.all(
      wanted.slice(from, from + 16).map(async (name) => writeFile(join(directory, name), await draw(name))),
    );
  return wanted;
}
