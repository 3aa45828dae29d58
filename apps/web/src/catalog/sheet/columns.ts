/** Columns of the sheet: which it shows, as the address or this browser has them. */
import type { SheetColumn } from '@velvet-shelf/contract';
import { type Attribute, type Role, closedList, sayLanguage } from '@velvet-shelf/core/values';

const slot = 'velvet.sheet.columns';
/** What most sheets are for, by role, where nobody has chosen. */
const firstRoles: readonly Role[] = ['gtin', 'brand', 'title', 'description', 'colour', 'size', 'material', 'weight'];

export const attributeOf = ({ read }: SheetColumn): Attribute | undefined => read ?? undefined;

/** The slots to show: those asked for, else those shown last, else the first of the trade. */
export function slotsToShow(all: readonly SheetColumn[], asked: readonly string[]): string[] {
  const known = new Set(all.map((column) => column.slot));
  const wanted = (asked.length > 0 ? asked : kept()).filter((each) => known.has(each));
  if (wanted.length > 0) return wanted;
  const byRole = firstRoles.flatMap((role) => all.find(({ read }) => read?.role === role)?.slot ?? []);
  const beside = ['price', 'stock'].flatMap((field) => all.find(({ attribute }) => attribute === field)?.slot ?? []);
  return [...byRole, ...beside];
}

function kept(): string[] {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(slot) ?? '[]');
    return Array.isArray(read) ? read.filter((each) => typeof each === 'string') : [];
  } catch {
    return [];
  }
}

export const keepSlots = (slots: readonly string[]) => localStorage.setItem(slot, JSON.stringify(slots));

/** “Title, German”, “Price, EUR”, “Headline, Orrivane GB”. */
export const headOf = ({ label, language, read, pin }: SheetColumn): string =>
  pin
    ? `${label}, ${pin.place}`
    : language === null
      ? label
      : `${label}, ${read === null ? language : sayLanguage(language)}`;

export function wideOf({ read, attribute, pin }: SheetColumn): number {
  if (pin) return pin.type === 'text' ? 210 : 132;
  if (read === null) return attribute === 'stock' ? 74 : 92;
  if (read.role === 'title' || read.type === 'richText') return 250;
  if (read.role === 'gtin') return 128;
  return ['number', 'measure', 'boolean', 'date'].includes(read.type) ? 96 : 132;
}

export const isNumeric = ({ read, pin }: SheetColumn): boolean =>
  pin
    ? ['number', 'measure', 'money'].includes(pin.type)
    : read === null || read.type === 'number' || read.type === 'measure' || read.type === 'money';

/** What may be chosen in a cell, by name. */
export function choicesOf(column: SheetColumn): string[] | undefined {
  if (column.pin) return column.pin.values;
  const attribute = attributeOf(column);
  if (attribute?.type === 'boolean') return ['yes', 'no'];
  const list = attribute && closedList(attribute);
  return list?.values.filter(({ hidden }) => !hidden).map(({ key }) => list.say(key));
}
