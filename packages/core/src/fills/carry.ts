/** A fill carried from one attribute of a channel to another's: what that takes of it, and what is left out. */
import type { ChannelAttribute } from '../rulebooks/index.js';
import { foldCode } from '../values/index.js';
import type { Fill } from './model.js';
import { carryRule } from './rules/index.js';
import { type Fit, offeredFits, sayFit, stepsFor } from './steps/index.js';

export interface Carried {
  /** Undefined where nothing of it is any good there. */
  fill: Fill | undefined;
  /** What was left out or made otherwise, in words. */
  notes: string[];
}

/** `sources`: what that attribute can be filled from, by name. */
export function carryFill(fill: Fill, to: ChannelAttribute, sources: ReadonlySet<string>): Carried {
  const notes: string[] = [];
  const listed = to.limits.values && new Map(to.limits.values.map((value) => [foldCode(value), value]));
  const rule = carryRule(fill.rule, {
    value: (value) => (listed ? listed.get(foldCode(value)) : value),
    source: (name) => sources.has(name),
    leave: (words) => notes.push(`without ${words}`),
  });
  if (!rule) return { fill: undefined, notes };
  return { fill: { rule, fit: carrySteps(fill.fit, to, notes) }, notes };
}

/** Steps that do something to what the attribute is sent; those it offers itself as it offers them. */
function carrySteps(fit: readonly Fit[], to: ChannelAttribute, notes: string[]): Fit[] {
  const known = new Set(stepsFor(to.type).map(({ name }) => name));
  const offered = new Map(offeredFits(to.limits, to.type).map(({ step }) => [step.do, step]));
  return fit.flatMap((step) => {
    if (!known.has(step.do)) {
      notes.push(`without “${sayFit(step)}”`);
      return [];
    }
    const here = offered.get(step.do);
    if (!here || sayFit(here) === sayFit(step)) return [step];
    notes.push(sayFit(here));
    return [here];
  });
}
