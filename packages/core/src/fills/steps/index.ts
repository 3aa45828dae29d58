/** Every step a fill can have, in the order in which they are offered. */
import { z } from 'zod';
import type { ChannelAttribute, Picture } from '../../rulebooks/index.js';
import { unitStep } from './in-unit.js';
import { keepTags } from './keep-tags.js';
import type { Limits, StepKind } from './model.js';
import { plainText } from './plain-text.js';
import { rendition } from './rendition.js';
import { lettersStep } from './letters.js';
import { replaceStep } from './replace.js';
import { roundStep } from './round.js';
import { sentenceStep } from './sentence-case.js';
import { trimStep } from './trim-at-word.js';

export const fitSchema = z.discriminatedUnion('do', [
  plainText.schema,
  keepTags.schema,
  sentenceStep.schema,
  trimStep.schema,
  unitStep.schema,
  replaceStep.schema,
  lettersStep.schema,
  roundStep.schema,
  rendition.schema,
]);
/** A step that cleans or shortens the text a rule gave, or asks for its pictures otherwise. */
export type Fit = z.infer<typeof fitSchema>;

export const steps: readonly StepKind[] = [
  plainText,
  keepTags,
  sentenceStep,
  lettersStep,
  trimStep,
  replaceStep,
  unitStep,
  roundStep,
  rendition,
];

/** Those that do something to what an attribute of this type is sent: pictures, or texts and figures. */
export const stepsFor = (type: ChannelAttribute['type']): readonly StepKind[] =>
  steps.filter(({ picture }) => (picture !== undefined) === (type === 'picture'));

const byName = new Map(steps.map((step) => [step.name, step]));

function kindOf({ do: name }: Fit): StepKind {
  const kind = byName.get(name);
  if (!kind) throw new Error(`There is no step “${name}”`);
  return kind;
}

export const compileFit = (step: Fit): ((text: string) => string) => kindOf(step).compile(step);

/** What a step makes of pictures, where it is for them. */
export const compilePictureFit = (step: Fit): ((picture: Picture) => Picture) | undefined =>
  kindOf(step).picture?.(step);

/** What a step did, as told of a value. */
export const sayFit = (step: Fit): string => kindOf(step).say(step);

/** Steps that one click switches on for an attribute with these limits, with their words. */
export const offeredFits = (limits: Limits, type: ChannelAttribute['type'] = 'text'): { step: Fit; label: string }[] =>
  stepsFor(type).flatMap((kind) => {
    const step = fitSchema.safeParse(kind.offer(limits));
    return step.success ? [{ step: step.data, label: kind.label(limits) }] : [];
  });

export type { Limits, StepField, StepKind } from './model.js';
export {
  asRendition,
  renditionBytes,
  renditionFormats,
  renditionSchema,
  renditionSides,
  type RenditionRule,
} from './rendition.js';
export { roundFigure } from './round.js';
export { inUnit } from './in-unit.js';
export { sentenceCase } from './sentence-case.js';
export { trimAtWord } from './trim-at-word.js';
