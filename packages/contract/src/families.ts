/** Families as people make them: proposed from titles, made, goods put in and taken out, and broken up. */
import { axisNameSchema, optionValueSchema } from '@velvet-shelf/core/catalog';
import { z } from 'zod';
import { chosenSchema } from './bulk.js';
import { effectSchema } from './effect.js';
import { endpoint, idParam, rowNumber } from './endpoint.js';

/** Goods that are placed at once. */
export const mostPlaced = 5000;
/** Axes of a family that is made at once. */
const mostAxes = 12;

export const gatheredSchema = z.object({
  families: z
    .array(
      z.object({
        /** The family that they come into; null: one is made. */
        into: rowNumber.nullable().default(null),
        axes: z.array(axisNameSchema).max(mostAxes),
        members: z
          .array(
            z.object({
              id: rowNumber,
              /** By axis; null: what it has there, or nothing. */
              values: z.array(optionValueSchema.nullable()).max(mostAxes),
            }),
          )
          .min(1)
          .max(mostPlaced),
      }),
    )
    .min(1)
    .max(500)
    .refine((families) => families.every(({ into, members }) => into !== null || members.length > 1), {
      message: 'A family is of two products or more',
    })
    .refine((families) => families.reduce((sum, { members }) => sum + members.length, 0) <= mostPlaced, {
      message: `${mostPlaced} products can be put into families at once`,
    }),
});
export type GatheredGoods = z.output<typeof gatheredSchema>;

const placedSchema = z.object({ products: z.array(rowNumber).min(1).max(mostPlaced) });
export type PlacedGoods = z.output<typeof placedSchema>;

const proposedSchema = z.object({
  /** An empty name: somebody has to say what tells them apart. */
  axes: z.array(z.string()),
  members: z.array(
    z.object({
      id: z.number(),
      sku: z.string().nullable(),
      title: z.string(),
      values: z.array(z.string().nullable()),
    }),
  ),
});
export type ProposedFamily = z.infer<typeof proposedSchema>;

export const proposedFamiliesSchema = z.object({
  items: z.array(proposedSchema),
  /** Single products whose titles were read. */
  goods: z.number(),
  /** False: there are more than are read at once. */
  whole: z.boolean(),
});
export type ProposedFamilies = z.infer<typeof proposedFamiliesSchema>;

/** Which goods are asked about: those chosen, or all; as one family, or as their titles have it. */
export const wishedSchema = z.object({ chosen: chosenSchema.optional(), asOne: z.boolean().default(false) });
export type WishedFamilies = z.output<typeof wishedSchema>;

export const families = {
  propose: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/families/propose',
    summary: 'Families that titles of single products propose; nothing is made',
    body: wishedSchema,
    answer: proposedFamiliesSchema,
  }),
  gather: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/families',
    once: true,
    summary: 'Make families of goods, or put goods into a family there is',
    body: gatheredSchema,
    answer: effectSchema.extend({ families: z.array(z.number()) }),
  }),
  takeOut: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/families/take-out',
    once: true,
    summary: 'Take variants out of their families: each stands alone',
    body: placedSchema,
    answer: effectSchema,
  }),
  breakUp: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/products/:id/break-up',
    once: true,
    summary: 'Break a family up: its variants stand alone, and so do those that come later',
    params: idParam,
    answer: effectSchema,
  }),
};
