/** Fields of goods that are no claims and are edited beside them: prices and stock. The rooms they belong to say how (`rooms.ts`). */
import type { editSchema } from '@velvet-shelf/contract';
import type { Offer } from '@velvet-shelf/core/catalog';
import type { z } from 'zod';
import type { Executor } from '../db/client.js';

export interface FieldEdit {
  productId: number;
  /** As it is held now. */
  product: { offers: Record<string, Offer>; stock: number };
  edit: z.output<typeof editSchema>;
  actionId: number;
}

export interface FieldEdited {
  /** What was set, for the history’s sentence. */
  label: string;
  delta: Record<string, unknown[]>;
}

/** Throws where the text cannot be read, or where the field was changed meanwhile. */
export type EditField = (tx: Executor, edit: FieldEdit) => Promise<FieldEdited>;

const fields = new Map<string, EditField>();

export function registerField(key: string, edit: EditField): void {
  fields.set(key, edit);
}

export const fieldOf = (key: string): EditField | undefined => fields.get(key);
