import { z } from 'zod';
import { endpoint, idParam, moment, rowNumber } from './endpoint.js';

export const warehouseKinds = ['own', 'supplier'] as const;

export const warehouseSchema = z.object({
  id: z.number(),
  name: z.string(),
  kind: z.enum(warehouseKinds),
  supplierId: z.number().nullable(),
  putAway: z.boolean(),
  /** Pieces in it. */
  onHand: z.number(),
  /** Places whose channels may be shown what stands in it. */
  serves: z.array(z.number()),
});
export type WarehouseAnswer = z.infer<typeof warehouseSchema>;

export const stockSchema = z.object({
  productId: z.number(),
  onHand: z.number(),
  reserved: z.number(),
  keptBack: z.number(),
  /** What a channel is shown of it. */
  shown: z.number(),
  /** Ours, and those of suppliers that have a figure of it; only ours are on hand. */
  warehouses: z.array(z.object({ id: z.number(), name: z.string(), kind: z.enum(warehouseKinds), onHand: z.number() })),
  /** Reasons used so far, the usual ones among them. */
  reasons: z.array(z.string()),
  /** Newest first. */
  movements: z.array(
    z.object({
      id: z.number(),
      at: moment,
      delta: z.number(),
      reason: z.string(),
      warehouse: z.string(),
      by: z.string().nullable(),
      batchId: z.number().nullable(),
    }),
  ),
});
export type StockAnswer = z.infer<typeof stockSchema>;

/** Pieces that come or go, with a reason; or how many are kept back; or both. */
export const stockChangeSchema = z.object({
  delta: z.int().min(-1_000_000).max(1_000_000).optional(),
  reason: z.string().trim().min(1).max(60).optional(),
  warehouseId: rowNumber.optional(),
  keptBack: z.int().min(0).max(1_000_000).optional(),
  /** What the change was made against; another figure now answers 412. */
  madeAgainst: z.object({ onHand: z.number(), keptBack: z.number() }),
});
export type StockChange = z.infer<typeof stockChangeSchema>;

const warehouseName = z.string().trim().min(1, 'Give a name').max(80);
const warehouseFields = z.object({ name: warehouseName, putAway: z.boolean() });

export const stock = {
  show: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id/stock',
    summary: 'Stock of a product: on hand, kept back, shown, and its movements',
    params: idParam,
    answer: stockSchema,
  }),
  change: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/products/:id/stock',
    summary: 'Book pieces in or out with a reason, or keep some back',
    params: idParam,
    body: stockChangeSchema,
    answer: stockSchema,
  }),
  warehouses: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/warehouses',
    summary: 'Warehouses, ours and suppliers’, and the places each serves',
    answer: z.object({ items: z.array(warehouseSchema) }),
  }),
  addWarehouse: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/warehouses',
    summary: 'A new warehouse of ours',
    body: z.object({ name: warehouseName }),
    answer: z.object({ id: z.number() }),
  }),
  addWarehouses: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/warehouses/several',
    summary: 'New warehouses of ours as a list; all of them or none',
    body: z.object({ names: z.array(warehouseName).min(1).max(200) }),
    answer: z.object({ ids: z.array(z.number()) }),
  }),
  changeWarehouse: endpoint({
    role: 'editor',
    method: 'PATCH',
    path: '/api/warehouses/:id',
    summary: 'Rename a warehouse, put it away or back; one that holds pieces stays',
    params: idParam,
    body: z.object({ to: warehouseFields.partial(), was: warehouseFields.partial() }),
    answer: z.object({}),
  }),
  serve: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/warehouses/:id/serves',
    summary: 'Say whether a warehouse serves a place',
    params: idParam,
    body: z.object({ placeId: rowNumber, serves: z.boolean() }),
    answer: z.object({ items: z.array(warehouseSchema) }),
  }),
};
