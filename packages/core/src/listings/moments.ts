/** What time alone changes of a listing: the day on which its answer may be another. */
import type { Variant } from '../catalog/index.js';

export const isMuted = ({ muted }: Variant, today: string): boolean =>
  muted !== undefined && (muted.until === null || muted.until > today);

/** A sale that begins or ends changes values by itself, and so does the day until which findings are muted. */
export function nextChange(variant: Variant, currencies: readonly string[], today: string): string | undefined {
  let next = isMuted(variant, today) ? (variant.muted?.until ?? undefined) : undefined;
  for (const currency of currencies) {
    const day = offerChange(variant, currency, today);
    if (day !== undefined && (next === undefined || day < next)) next = day;
  }
  return next;
}

function offerChange(variant: Variant, currency: string, today: string): string | undefined {
  const sale = variant.offers[currency]?.sale;
  if (!sale) return undefined;
  if (sale.from !== undefined && sale.from > today) return sale.from;
  if (sale.to === undefined || sale.to < today) return undefined;
  const day = new Date(`${sale.to}T00:00:00Z`);
  day.setUTCDate(day.getUTCDate() + 1);
  return day.toISOString().slice(0, 10);
}
