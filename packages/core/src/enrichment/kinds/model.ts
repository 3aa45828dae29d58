import type { FoundValue, SoughtAttribute } from '../model.js';
import type { Side } from '../side.js';

/** Something that may be a value: its tokens and how sure it is. */
export interface Candidate {
  value: FoundValue;
  /** First token and the one behind the last. */
  from: number;
  to: number;
  score: number;
  /** Another attribute that has the same words has them: a colour, to a material. */
  yields?: boolean;
}

/** What all attributes of a list tell about each other. */
export interface Company {
  attributes: readonly SoughtAttribute[];
  /** The decimal mark of the text. */
  decimal: '.' | ',';
}

export type Finder = (side: Side, company: Company) => Candidate[];
