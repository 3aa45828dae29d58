/** What the page of a product keeps in its address, beside the view one came from. */
import { useMemo } from 'react';
import { z } from 'zod';
import { inAddress } from '../../api/address';
import { catalogAddress } from '../view';

export const rackShows = ['price and stock', 'picture', 'listing state', 'what differs'] as const;
export type RackShows = (typeof rackShows)[number];

export const productTabs = ['rack', 'values', 'texts', 'pictures', 'stock', 'listings', 'history'] as const;

export const productAddress = catalogAddress.omit({ open: true, tab: true, attribute: true }).extend({
  tab: z.enum(productTabs).optional(),
  /** The variant that is looked at; none: the family. */
  variant: inAddress.number,
  /** Whether the variant is asked about, or its family. */
  level: z.enum(['family', 'variant']).default('family'),
  shows: z.enum(rackShows).default('price and stock'),
  /** Keys of the axes down and across. */
  down: inAddress.text,
  across: inAddress.text,
  /** Of the further axes: their values that are looked at, as JSON. */
  at: inAddress.list(z.tuple([z.string(), z.string()])),
  /** The options are being changed. */
  options: inAddress.flag,
  /** One goes through a view, product by product. */
  list: inAddress.flag,
});
export type ProductAddress = z.infer<typeof productAddress>;

/** The values looked at, by axis. */
export const useAt = (at: ProductAddress['at']) => useMemo(() => Object.fromEntries(at), [at]);
