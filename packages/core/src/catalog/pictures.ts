/** Pictures: how plain the ground of one is, and to which goods a pile of files belongs by their names. */

/** Pixels as they come from a decoder: `channels` bytes each, row by row. */
export interface Pixels {
  data: Uint8Array;
  width: number;
  height: number;
  channels: number;
}

export interface Ground {
  /** Of the pixels at the edge, in per cent: those nearly of the colour that most of them have. */
  plain: number;
  /** How much of the shorter side is ground alone on every side, in per cent. */
  blank: number;
}

/** Two colours nearer than this are one to the eye: the sum of the differences of red, green and blue. */
const near = 36;
/** A row or a column that is ground but for so many of its pixels is ground: dust, and the marks of compression. */
const blemish = 0.01;

/** Measured on small copies: 256 pixels are enough. What is clear through counts as white. */
export function groundOf({ data, width, height, channels }: Pixels): Ground {
  if (width === 0 || height === 0) return { plain: 0, blank: 0 };
  const at = (x: number, y: number): Colour => {
    const i = (y * width + x) * channels;
    const clear = channels === 2 || channels === 4 ? 1 - (data[i + channels - 1] ?? 255) / 255 : 0;
    const over = (value: number) => Math.round(value * (1 - clear) + 255 * clear);
    const first = data[i] ?? 0;
    return channels < 3
      ? [over(first), over(first), over(first)]
      : [over(first), over(data[i + 1] ?? 0), over(data[i + 2] ?? 0)];
  };
  const edge: Colour[] = [];
  for (let x = 0; x < width; x++) edge.push(at(x, 0), at(x, height - 1));
  for (let y = 1; y < height - 1; y++) edge.push(at(0, y), at(width - 1, y));
  const ground = commonest(edge);
  const isGround = (colour: Colour) => distance(colour, ground) <= near;
  const isBlank = (pixels: number, pixelAt: (i: number) => Colour) => {
    let others = 0;
    for (let i = 0; i < pixels; i++) if (!isGround(pixelAt(i))) others++;
    return others <= pixels * blemish;
  };
  const half = Math.floor(Math.min(width, height) / 2);
  let margin = 0;
  while (
    margin < half &&
    isBlank(width, (x) => at(x, margin)) &&
    isBlank(width, (x) => at(x, height - 1 - margin)) &&
    isBlank(height, (y) => at(margin, y)) &&
    isBlank(height, (y) => at(width - 1 - margin, y))
  )
    margin++;
  return {
    plain: Math.round((100 * edge.filter(isGround).length) / edge.length),
    blank: Math.round((100 * margin) / Math.min(width, height)),
  };
}

type Colour = readonly [number, number, number];

const distance = (a: Colour, b: Colour): number =>
  Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + Math.abs(a[2] - b[2]);

/** The mean of the fullest of coarse boxes of colours. */
function commonest(colours: readonly Colour[]): Colour {
  const boxes = new Map<number, [n: number, red: number, green: number, blue: number]>();
  for (const [red, green, blue] of colours) {
    const key = ((red >> 5) << 6) | ((green >> 5) << 3) | (blue >> 5);
    const box = boxes.get(key) ?? [0, 0, 0, 0];
    boxes.set(key, [box[0] + 1, box[1] + red, box[2] + green, box[3] + blue]);
  }
  const [n, red, green, blue] = [...boxes.values()].reduce((a, b) => (b[0] > a[0] ? b : a), [1, 0, 0, 0]);
  return [red / n, green / n, blue / n];
}

/**
 * Letters and figures alone, signs of letters kept: “MS-AMB 71/13” and “ms_amb71-13” are one. As a database has it that looks
 * for such a number (small letters, `[:alnum:]` alone); `foldCode` is for those that are compared here.
 */
export const bareNumber = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '');

/** Shorter ones stand in file names by chance. */
const leastNumber = 3;

/** What a file's name may say as a number of goods, bare: its parts between marks, one or several together, the longest first. */
export function numbersIn(fileName: string): string[] {
  const parts = fileName
    .replace(/^.*[/\\]/, '')
    .replace(/\.\w{1,5}$/, '')
    .split(/[^\p{L}\p{N}]+/u)
    .map(bareNumber)
    .filter((part) => part !== '');
  const all = new Set<string>();
  for (let from = 0; from < parts.length; from++)
    for (let to = from + 1; to <= parts.length; to++) {
      const number = parts.slice(from, to).join('');
      if (number.length >= leastNumber) all.add(number);
    }
  return [...all].sort((a, b) => b.length - a.length);
}

export interface FilePlace {
  name: string;
  /** Goods of the longest number in its name; undefined where none has any, or two have the same. */
  product: number | undefined;
  /** That number, as the goods have it. */
  number: string | undefined;
  /** How many goods have it. */
  among: number;
}

/** Where files belong, goods by their bare numbers; in the order in which they go to the goods: by name, figures as figures. */
export function placeFiles(
  names: readonly string[],
  goods: ReadonlyMap<string, readonly { product: number; number: string }[]>,
): FilePlace[] {
  const byName = new Intl.Collator('en', { numeric: true });
  return [...names].sort(byName.compare).map((name) => {
    const found = numbersIn(name).flatMap((number) => (goods.has(number) ? [goods.get(number) ?? []] : []))[0] ?? [];
    const products = new Set(found.map(({ product }) => product));
    return {
      name,
      product: products.size === 1 ? found[0]?.product : undefined,
      number: found[0]?.number,
      among: products.size,
    };
  });
}
