/** What the ways of reading have in common (formats/): encodings and separators, findings with what made us decide. */
export const encodings = [
  'utf-8',
  'utf-16le',
  'utf-16be',
  ...(['1250', '1251', '1252', '1253', '1254', '1255', '1256', '1257', '1258'] as const).map(
    (page) => `windows-${page}` as const,
  ),
  ...(['1', '2', '3', '4', '5', '6', '7', '8', '9', '10', '11', '13', '14', '15', '16'] as const).map(
    (part) => `iso-8859-${part}` as const,
  ),
  'koi8-r',
  'koi8-u',
  'macroman',
  'cp437',
  'cp850',
  'cp852',
  'cp866',
] as const;
export type Encoding = (typeof encodings)[number];
export const delimiters = [';', '\t', ',', '|'] as const;
export type Delimiter = (typeof delimiters)[number];

export interface Detected<T> {
  value: T;
  /** A sentence for people: what made us decide. */
  why: string;
}

/** A file that cannot be read, in words for the person who sent it. */
export class UnreadableFile extends Error {}
