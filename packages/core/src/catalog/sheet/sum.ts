/** What the chosen cells of one column come to. */
import { type Attribute, type Measure, parseValue, plainStyle, sayUnit, units } from '../../values/index.js';

/** Their sum in words, as figures of this locale; undefined where they are no figures of one kind. */
export function sumOf(texts: readonly string[], attribute: Attribute, locale: string): string | undefined {
  const read = texts.flatMap((text) => {
    const value = text.trim() === '' ? undefined : parseValue(text, plainStyle, attribute);
    return value?.ok ? [value.value] : [];
  });
  if (read.length < 2) return undefined;
  const say = (figure: number) => figure.toLocaleString(locale, { maximumFractionDigits: 3 });
  if (attribute.type === 'number') return say(read.reduce((sum: number, value) => sum + Number(value), 0));
  if (attribute.type !== 'measure') return undefined;
  const measures = read as Measure[];
  const [first] = measures;
  const unit = first && units[first.unit];
  if (!first || !unit) return undefined;
  const base = measures.reduce((sum, measure) => sum + measure.base, 0);
  return first.base === 0 ? undefined : `${say((base / first.base) * Number(first.amount))} ${sayUnit(first.unit)}`;
}
