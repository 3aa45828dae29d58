/** The steps that fit a text to a channel. */
import { parseMeasure, plainStyle, plainText, units } from '../values/index.js';
import type { Fit } from './model.js';

export function compileFit(step: Fit): (text: string) => string {
  switch (step.do) {
    case 'plain-text':
      return plainText;
    case 'trim-at-word':
      return (text) => trimAtWord(text, step.length);
    case 'sentence-case':
      return sentenceCase;
    case 'in-unit':
      return (text) => inUnit(text, step.unit, step.whole);
    case 'replace':
      return (text) => replaceAll(text, step.find, step.with);
  }
}

/** "1.2 kg" in grams: "1200 g"; what is no measure, or of another dimension, stays as it is. */
export function inUnit(text: string, unit: string, whole: boolean): string {
  const wanted = units[unit];
  if (!wanted) return text;
  const read = parseMeasure(text, plainStyle, wanted.dimension);
  if (!read.ok) return text;
  const amount = read.value.base / wanted.factor;
  const rounded = whole ? Math.round(amount) : Number(amount.toPrecision(9));
  return `${rounded} ${unit}`;
}

/** No channel takes a longer text; steps that make one longer and longer end here. */
const longestText = 200_000;

/** Replaces every occurrence; what would grow beyond 200,000 characters is cut there. */
function replaceAll(text: string, find: string, by: string): string {
  if (by.length <= find.length) return text.replaceAll(find, () => by);
  const parts = text.split(find);
  const grown = text.length + (parts.length - 1) * (by.length - find.length);
  if (grown <= longestText) return parts.join(by);
  const fitting = Math.floor((longestText - text.length) / (by.length - find.length));
  return [parts.slice(0, Math.max(0, fitting) + 1).join(by), ...parts.slice(Math.max(0, fitting) + 1)]
    .join(find)
    .slice(0, longestText);
}

/** At most `length` characters (code points), cut after a whole word where one ends in the last 40 %. */
export function trimAtWord(text: string, length: number): string {
  if (text.length <= length) return text;
  const points = Array.from(text);
  if (points.length <= length) return text;
  const cut = points.slice(0, length).join('');
  if (/\s/.test(points[length] ?? ' ')) return cut.trimEnd();
  const space = cut.search(/\s\S*$/);
  return (space > cut.length * 0.6 ? cut.slice(0, space) : cut).replace(/[\s,;:–-]+$/, '');
}

/** Words in capitals become ordinary ones; the first letter stays large. Short codes such as LED and UK are kept. */
export function sentenceCase(text: string): string {
  const lowered = text.replace(/\p{Lu}{4,}/gu, (word) => word.toLowerCase());
  return lowered.charAt(0).toUpperCase() + lowered.slice(1);
}
