/** The company whose shelf this is, and the suppliers its goods come from. */
import { z } from 'zod';
import { endpoint } from './endpoint.js';

export const companySchema = z.object({
  name: z.string(),
  /** BCP 47, its own first. */
  languages: z.array(z.string()),
  /** ISO 4217, its own first. */
  currencies: z.array(z.string()),
  /** IANA. */
  timeZone: z.string(),
});
export type Company = z.infer<typeof companySchema>;

export const supplierSchema = z.object({
  id: z.number(),
  key: z.string(),
  name: z.string(),
  rank: z.number(),
  kind: z.enum(['own', 'supplier']),
  /** Its numbers for use inside a company are ours. */
  usesOurNumbers: z.boolean(),
  records: z.number(),
  /** Records that its latest whole list no longer has. */
  dropped: z.number(),
});
export type SupplierAnswer = z.infer<typeof supplierSchema>;

export const company = {
  suppliers: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/suppliers',
    summary: 'Suppliers, best ranked first',
    answer: z.object({ items: z.array(supplierSchema) }),
  }),
  addSupplier: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/suppliers',
    summary: 'A new supplier; trusted last until ranked otherwise',
    body: z.object({ name: z.string().trim().min(1).max(80), language: z.string().optional() }),
    answer: z.object({ id: z.number() }),
  }),
};
