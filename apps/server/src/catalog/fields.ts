/** Fields of goods that are no claims and are edited beside them: prices and stock. The rooms they belong to say how (`rooms.ts`). */
import type { editSchema } from '@velvet-shelf/contract';
import type { Offer } from '@velvet-shelf/core/catalog';
import type { z } from 'zod';
import type { Executor } from '../db/client.js';
import type { Change } from '../history/record.js';

export interface FieldEdit {
  productId: number;
  /** As it is held now. */
  product: { offers: Record<string, Offer>; stock: number };
  edit: z.output<typeof editSchema>;
  /** The company’s own (ISO 4217). */
  currency: string;
}

/** How a field is edited: each edit is read by itself, and what they want is written as one. */
export interface EditField<Wanted = unknown> {
  /** For the history’s sentence. */
  label: string;
  /** Throws where the text cannot be read, or where the field was changed meanwhile. */
  read(edit: FieldEdit): Wanted;
  write(tx: Executor, wanted: readonly Wanted[], actionId: number): Promise<Change[]>;
}

const fields = new Map<string, EditField>();

export function registerField<Wanted>(key: string, field: EditField<Wanted>): void {
  fields.set(key, field);
}

export const fieldOf = (key: string): EditField | undefined => fields.get(key);
