/** Fields of goods that are no claims and are edited beside them: prices, stock, pins. The rooms they belong to say how (`rooms.ts`). */
import type { SheetColumn, SheetRow, editSchema } from '@velvet-shelf/contract';
import type { Offer } from '@velvet-shelf/core/catalog';
import type { z } from 'zod';
import type { Executor } from '../db/client.js';
import type { Change } from '../history/record.js';
import type { Services } from '../http/route.js';

export interface FieldEdit {
  productId: number;
  /** As it is held now. */
  product: { offers: Record<string, Offer>; stock: number };
  edit: z.output<typeof editSchema>;
  /** The company’s own (ISO 4217). */
  currency: string;
}

/** What an edit wants, and what it is called in the history’s sentence. */
export interface FieldWish<Wanted> {
  label: string;
  wanted: Wanted;
}

/** How a field is edited: each edit is read by itself, and what they want is written as one. */
export interface EditField<Wanted = unknown> {
  /** Reads an edit; throws where the text cannot be read, or where the field was changed meanwhile. What it needs is loaded for all of them. */
  reader(tx: Executor, edits: readonly FieldEdit[]): Promise<(edit: FieldEdit) => FieldWish<Wanted>>;
  write(tx: Executor, wanted: readonly Wanted[], actionId: number): Promise<Change[]>;
  /** Its columns in a sheet, where they are not the catalog’s own. */
  sheet?: FieldColumns;
}

/** Columns of a sheet that are of another room’s; each is told by what stands behind the `@` of its slot. */
export interface FieldColumns {
  columns(services: Services): Promise<SheetColumn[]>;
  /** By column, then by product. */
  cells(
    services: Services,
    names: readonly string[],
    products: readonly number[],
  ): Promise<ReadonlyMap<string, ReadonlyMap<number, Cell>>>;
}
export type Cell = SheetRow['cells'][number];

const fields = new Map<string, EditField>();

export function registerField<Wanted>(key: string, field: EditField<Wanted>): void {
  fields.set(key, field);
}

export const fieldOf = (key: string): EditField | undefined => fields.get(key);
export const allFields = (): IterableIterator<EditField> => fields.values();
