/** Every step a fill can have, in the order in which they are offered. */
import { z } from 'zod';
import { unitStep } from './in-unit.js';
import { keepTags } from './keep-tags.js';
import type { Limits, StepKind } from './model.js';
import { plainText } from './plain-text.js';
import { replaceStep } from './replace.js';
import { sentenceStep } from './sentence-case.js';
import { trimStep } from './trim-at-word.js';

export const fitSchema = z.discriminatedUnion('do', [
  plainText.schema,
  keepTags.schema,
  sentenceStep.schema,
  trimStep.schema,
  unitStep.schema,
  replaceStep.schema,
]);
/** A step that cleans or shortens the text a rule gave. */
export type Fit = z.infer<typeof fitSchema>;

export const steps: readonly StepKind[] = [plainText, keepTags, sentenceStep, trimStep, unitStep, replaceStep];

const byName = new Map(steps.map((step) => [step.name, step]));

function kindOf({ do: name }: Fit): StepKind {
  const kind = byName.get(name);
  if (!kind) throw new Error(`There is no step “${name}”`);
  return kind;
}

export const compileFit = (step: Fit): ((text: string) => string) => kindOf(step).compile(step);

/** What a step did, as told of a value. */
export const sayFit = (step: Fit): string => kindOf(step).say(step);

/** Steps that one click switches on for an attribute with these limits, with their words. */
export const offeredFits = (limits: Limits): { step: Fit; label: string }[] =>
  steps.flatMap((kind) => {
    const step = fitSchema.safeParse(kind.offer(limits));
    return step.success ? [{ step: step.data, label: kind.label(limits) }] : [];
  });

export type { Limits } from './model.js';
export { inUnit } from './in-unit.js';
export { sentenceCase } from './sentence-case.js';
export { trimAtWord } from './trim-at-word.js';
