import { z } from 'zod';
import type { Picture } from '../../rulebooks/index.js';
import { defineStep } from './model.js';

/** Longest sides that pictures are made in, in pixels: any figure would be a way to fill a disk. */
export const renditionSides: readonly number[] = [64, 128, 256, 512, 800, 1000, 1200, 1600, 2000];
/** Most bytes that pictures are made to. */
export const renditionBytes: readonly number[] = [100_000, 250_000, 500_000, 1_000_000, 2_000_000, 5_000_000];
/** Formats that pictures are made in. */
export const renditionFormats = ['jpeg', 'png', 'webp'] as const;

const oneOf = (list: readonly number[]) => z.int().refine((n) => list.includes(n), `One of ${list.join(', ')}`);

/** How a picture is asked for: in the question of its address, and in a fill. */
export const renditionSchema = z.strictObject({
  side: oneOf(renditionSides).optional(),
  /** Padded to a square with this ground. */
  square: z.enum(['white', 'clear']).optional(),
  format: z.enum(renditionFormats).optional(),
  bytes: oneOf(renditionBytes).optional(),
});
export type RenditionRule = z.infer<typeof renditionSchema>;

const isSquareTaken = (min: number | undefined, max: number | undefined) =>
  (min !== undefined || max !== undefined) && (min ?? 0) <= 1 && (max ?? 1) >= 1;

const madeFormat = (formats: readonly string[] | undefined) =>
  formats ? renditionFormats.find((format) => formats.includes(format)) : undefined;

function sayRule({ side, square, format, bytes }: RenditionRule): string {
  const words = [
    ...(square ? [square === 'white' ? 'made square on white' : 'made square'] : []),
    ...(side === undefined ? [] : [`${square ? '' : 'at most '}${side} pixels long`]),
    ...(format === undefined ? [] : [`as ${format.toUpperCase()}`]),
    ...(bytes === undefined ? [] : [`at most ${bytes / 1000} kB`]),
  ];
  return words.length === 0 ? 'sent as it is' : words.join(', ');
}

export const rendition = defineStep({
  name: 'rendition',
  title: 'Make pictures otherwise',
  fields: [
    {
      name: 'square',
      label: 'Square on',
      kind: 'one-of',
      choices: [
        { value: 'white', label: 'white' },
        { value: 'clear', label: 'nothing (clear)' },
      ],
    },
    {
      name: 'side',
      label: 'Longest side',
      kind: 'one-of',
      choices: renditionSides.map((value) => ({ value, label: `${value} pixels` })),
    },
    {
      name: 'format',
      label: 'Format',
      kind: 'one-of',
      choices: renditionFormats.map((value) => ({ value, label: value.toUpperCase() })),
    },
    {
      name: 'bytes',
      label: 'At most',
      kind: 'one-of',
      choices: renditionBytes.map((value) => ({ value, label: `${value / 1000} kB` })),
    },
  ],
  begin: () => ({ do: 'rendition' as const }),
  label: ({ minRatio, maxRatio, formats }) => {
    const words = [
      ...(isSquareTaken(minRatio, maxRatio) ? ['square on white'] : []),
      ...(madeFormat(formats) === undefined ? [] : [`as ${madeFormat(formats)?.toUpperCase()}`]),
    ];
    return `Make pictures ${words.join(', ') || 'smaller'}`;
  },
  schema: z.strictObject({ do: z.literal('rendition'), ...renditionSchema.shape }),
  offer: ({ minRatio, maxRatio, formats }) => {
    const format = madeFormat(formats);
    const isSquare = isSquareTaken(minRatio, maxRatio);
    if (!isSquare && format === undefined) return undefined;
    return {
      do: 'rendition' as const,
      ...(isSquare ? { square: 'white' as const } : {}),
      ...(format === undefined ? {} : { format }),
    };
  },
  say: ({ do: _, ...rule }) => sayRule(rule),
  compile: () => (text) => text,
  picture:
    ({ do: _, ...rule }) =>
    (picture) =>
      asRendition(picture, rule),
  examples: [{ step: { do: 'rendition', square: 'white', format: 'jpeg' }, from: 'a text', to: 'a text' }],
});

/** The picture as it is asked for by this rule: its address, and what it measures then. One that stands elsewhere stays as it is. */
export function asRendition(picture: Picture, rule: RenditionRule): Picture {
  const { side, square, format } = rule;
  const asked = Object.entries(rule).filter(([, wish]) => wish !== undefined);
  if (picture.isOurs !== true || asked.length === 0) return picture;
  const question = asked.map(([name, wish]) => `${name}=${wish}`).join('&');
  return {
    ...picture,
    address: `${picture.address}?${question}`,
    ...measuresOf(picture, side, square !== undefined),
    ...(format === undefined ? {} : { format }),
  };
}

/** Nothing is blown up but the ground around it. */
function measuresOf(
  { width, height }: Picture,
  side: number | undefined,
  isSquare: boolean,
): { width?: number; height?: number } {
  if (width === undefined || height === undefined) return {};
  const longest = Math.max(width, height);
  const wanted = side ?? longest;
  if (isSquare) return { width: wanted, height: wanted };
  const share = Math.min(1, wanted / longest);
  return { width: Math.max(1, Math.round(width * share)), height: Math.max(1, Math.round(height * share)) };
}
