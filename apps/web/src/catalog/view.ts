/** What the catalog shows, as its address has it: the grid and the sheet show the same. */
import type { View } from '@velvet-shelf/contract';
import { type Condition, conditionSchema } from '@velvet-shelf/core/conditions';
import { z } from 'zod';
import { inAddress } from '../api/address';

export const catalogAddress = z.object({
  search: inAddress.search,
  sort: z.string().default('family'),
  show: z.enum(['both', 'variants', 'families']).default('both'),
  all: inAddress.flag,
  toComplete: inAddress.flag,
  where: inAddress.list(conditionSchema),
  /** The product in the drawer, its tab, and the attribute one came for. */
  open: inAddress.number,
  tab: z.string().default('facts'),
  attribute: inAddress.text,
});

/** What the address says of a view that is kept. */
export const addressOf = (view: View) => ({
  search: view.search,
  sort: view.sort,
  show: view.show,
  all: view.everything,
  toComplete: view.toComplete,
  where: conditionsOf(view.condition),
});

/** A view of the catalog is of conditions that all hold, each a comparison or a group. */
const conditionsOf = (condition: Condition): Condition[] => ('all' in condition ? condition.all : [condition]);

export const viewOf = ({
  search,
  sort,
  show,
  all,
  toComplete,
  where,
}: Omit<z.infer<typeof catalogAddress>, 'open' | 'tab' | 'attribute'>): Required<View> => ({
  search,
  sort,
  show,
  everything: all,
  toComplete,
  condition: { all: where },
});
