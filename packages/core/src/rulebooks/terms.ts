/** Terms that an account keeps on a channel: parcel plans, after-sale plans and the like, chosen by reference. */
import type { Rulebook } from './model.js';

export interface Term {
  /** One of the kinds that the rulebook names. */
  kind: string;
  /** What the channel knows it by. */
  key: string;
  /** It was there, and is there no more. */
  isGone?: boolean;
}

/** The rulebook as it holds for an account with these terms; a kind of which none was ever read takes anything. */
export function withTerms(rulebook: Rulebook, terms: readonly Term[]): Rulebook {
  if (terms.length === 0) return rulebook;
  return {
    ...rulebook,
    attributes: rulebook.attributes.map((attribute) => {
      const known = terms.filter(({ kind }) => kind === attribute.terms);
      if (known.length === 0) return attribute;
      const values = known.flatMap(({ key, isGone }) => (isGone ? [] : key));
      return { ...attribute, limits: { ...attribute.limits, values } };
    }),
  };
}
