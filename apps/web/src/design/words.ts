/** Numbers, money and moments as the reader writes them. */
import { z } from 'zod';

const locale = () => navigator.language;

export const count = (n: number) => n.toLocaleString(locale());
export const plural = (n: number, text: string, many = `${text}s`) => `${count(n)} ${n === 1 ? text : many}`;
/** An amount in plain decimals, as the reader writes it; without a currency, as a plain number. */
export const money = (amount: string | null | undefined, currency: string | undefined) =>
  amount === null || amount === undefined
    ? ''
    : Number(amount).toLocaleString(locale(), currency ? { style: 'currency', currency } : {});
/** Of a moment, where the reader is; of a day without one, that day everywhere. */
export const day = (iso: string) =>
  new Date(iso).toLocaleDateString(locale(), {
    ...{ day: 'numeric', month: 'short', year: 'numeric' },
    ...(/^\d{4}-\d\d-\d\d$/.test(iso) ? { timeZone: 'UTC' } : {}),
  });
export const clock = (iso: string) => {
  const date = new Date(iso);
  const today = new Date().toDateString() === date.toDateString();
  return today
    ? date.toLocaleTimeString(locale(), { hour: '2-digit', minute: '2-digit' })
    : date.toLocaleString(locale(), { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
};
export const bytes = (n: number) =>
  n < 1024 ? `${n} B` : n < 1_048_576 ? `${Math.round(n / 1024)} KB` : `${(n / 1_048_576).toFixed(1)} MB`;

/** "15 listings become ready, 1 listing becomes blocked"; of what is done, "became". */
export function sayBecoming(
  { becameReady, becameBlocked }: { becameReady: number; becameBlocked: number },
  isDone = false,
): string {
  const become = (n: number) =>
    isDone ? `${plural(n, 'listing')} became` : plural(n, 'listing becomes', 'listings become');
  const parts = [
    ...(becameReady > 0 ? [`${become(becameReady)} ready`] : []),
    ...(becameBlocked > 0 ? [`${become(becameBlocked)} blocked`] : []),
  ];
  return parts.join(', ') || 'no listing becomes ready or blocked';
}

/** What is true or not, as a word in a list. */
export const yesOrNo = z.enum(['true', 'false']).transform((word) => word === 'true');

/** The two choices of it. */
export const yesNo = (yes: string, no: string) =>
  [
    ['true', yes],
    ['false', no],
  ] as const;

/** What is typed or pasted one a line. */
export const linesOf = (text: string) =>
  text
    .split(/[\n|]/)
    .map((line) => line.trim())
    .filter(Boolean);
