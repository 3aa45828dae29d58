import type { Attribute } from '../../../values/index.js';

/** One way to clean a cell up. */
export interface CleanUp {
  key: string;
  label: string;
  /** A cell before and after, for people and for tests. */
  example: { before: string; after: string; attribute?: Attribute };
  /** `attribute`: what its column holds, where that is one; a cell it has nothing to do with stays as it is. */
  clean(text: string, attribute: Attribute | undefined): string;
}
