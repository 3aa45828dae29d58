/** Trust: many claims about one value in, the value that counts and its origin out. */
import { type Attribute, type Value, agree, sortKeys } from '../values/index.js';

/** "Empty on purpose" is a claim; an absent value is no claim at all. */
export const empty = Symbol.for('velvet-shelf.empty');
export type Claimed = Value | typeof empty;

/** Who says a value. */
export type Author = { from: 'edit'; at: string; by: string } | { from: 'record'; record: number; source: string };
/** Nobody does where it follows from others (`core/computed`). */
export type Origin = Author | { from: 'computed' };

/** Who it is, in words. */
export const nameOfAuthor = (author: Author): string => (author.from === 'record' ? author.source : author.by);

export interface Claim {
  value: Claimed;
  origin: Author;
  /** Lower wins among sources. */
  rank: number;
  /** ISO 8601 time the claim was made. */
  at: string;
}

export const trustPolicies = ['ranked', 'newest', 'lowest', 'highest', 'longest'] as const;
export type TrustPolicy = (typeof trustPolicies)[number];

/** Whose claim wins for one attribute. */
export interface Trust {
  policy: TrustPolicy;
  /** Names of sources, best first; those not named follow in the general order. Absent = the general order. */
  ranking?: readonly string[] | undefined;
}

export interface Resolved {
  value: Value | undefined;
  origin: Origin;
  /** Why this claim won, in words. */
  why: string;
  /** The claims that lost and say something else. */
  against: Claim[];
}

/**
 * Who wins: a person's edit always; else the policy; ties go to the better rank, then to the smaller record id,
 * so that the answer does not depend on the order of arrival.
 */
export function resolveClaims(
  claims: readonly Claim[],
  { policy, ranking }: Trust,
  attribute: Attribute,
): Resolved | undefined {
  const [only] = claims;
  if (!only) return undefined;
  if (claims.length === 1)
    return {
      value: only.value === empty ? undefined : only.value,
      origin: only.origin,
      why: only.origin.from === 'edit' ? 'edited by a person' : onlyClaim,
      against: [],
    };
  const edit = claims.find((claim) => claim.origin.from === 'edit');
  const place = (claim: Claim) => {
    const at = claim.origin.from === 'record' ? (ranking?.indexOf(claim.origin.source) ?? -1) : -1;
    return at < 0 ? (ranking?.length ?? 0) + claim.rank : at;
  };
  const ordered = [...claims].sort((a, b) => place(a) - place(b) || recordOf(a) - recordOf(b));
  const winner = edit ?? pick(ordered, policy, attribute);
  if (!winner) return undefined;
  return {
    value: winner.value === empty ? undefined : winner.value,
    origin: winner.origin,
    why: edit ? 'edited by a person' : policyWords[policy],
    against: ordered.filter((claim) => claim !== winner && !says(claim, winner, attribute)),
  };
}

/** Why a claim counts that no other stands against. */
export const onlyClaim = 'the only source';

const policyWords: Record<TrustPolicy, string> = {
  ranked: 'first in the ranking of sources',
  newest: 'the newest claim',
  lowest: 'the lowest value',
  highest: 'the highest value',
  longest: 'the longest text',
};

function says(a: Claim, b: Claim, attribute: Attribute): boolean {
  return a.value === empty || b.value === empty ? a.value === b.value : agree(a.value, b.value, attribute);
}

function recordOf(claim: Claim): number {
  return claim.origin.from === 'record' ? claim.origin.record : -1;
}

function pick(ordered: Claim[], policy: TrustPolicy, attribute: Attribute): Claim | undefined {
  const best = (better: (a: Claim, b: Claim) => boolean) =>
    ordered.reduce<Claim | undefined>(
      (won, claim) => (won === undefined || better(claim, won) ? claim : won),
      undefined,
    );
  const key = (claim: Claim) => (claim.value === empty ? undefined : sortKeys(claim.value, attribute)[0]);
  const beats = (sign: 1 | -1) => (a: Claim, b: Claim) => {
    const [x, y] = [key(a), key(b)];
    if (x === undefined || y === undefined) return x !== undefined;
    return sign === 1 ? x > y : x < y;
  };
  switch (policy) {
    case 'ranked':
      return ordered[0];
    case 'newest':
      return best((a, b) => a.at > b.at);
    case 'lowest':
      return best(beats(-1));
    case 'highest':
      return best(beats(1));
    case 'longest':
      return best((a, b) => String(a.value).length > String(b.value).length);
  }
}
