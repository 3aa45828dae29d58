/** What a step of a fill is: it cleans or shortens the text a rule gave, or asks for its pictures otherwise. One file a step; index.ts lists them. */
import type { ZodType } from 'zod';
import type { Picture } from '../../rulebooks/index.js';

/** What a channel takes of an attribute, as far as steps look at it. */
export interface Limits {
  /** Characters. */
  maxLength?: number | undefined;
  units?: readonly string[] | undefined;
  /** Markup, by its tags. */
  tags?: readonly string[] | undefined;
  /** Of pictures: width to height, and formats as they are usually called. */
  minRatio?: number | undefined;
  maxRatio?: number | undefined;
  formats?: readonly string[] | undefined;
}

export interface StepExample<Step> {
  step: Step;
  from: string;
  to: string;
}

/** A setting of a step, as a form asks for it. */
export type StepField =
  | { name: string; label: string; kind: 'number' | 'text' | 'list' | 'yes-no' }
  | { name: string; label: string; kind: 'one-of'; choices: readonly { value: string | number; label: string }[] };

interface StepDefinition<Step> {
  /** Its name in a fill: `do`. */
  name: string;
  /** What it is called where no settings are known yet: “Replace”. */
  title: string;
  /** What a form asks for; nothing where a step has no settings. */
  fields: readonly StepField[];
  /** The step as it begins where somebody adds it and none is offered, before its settings are said; it need not be whole. */
  begin(): object;
  schema: ZodType<Step>;
  /** As it is offered for an attribute with these limits: “Take markup out”. */
  label(limits: Limits): string;
  /** As it is told of a value: “markup taken out”. */
  say(step: Step): string;
  /** The step as one click switches it on for an attribute with these limits; undefined where it takes more than a click. */
  offer(limits: Limits): Step | undefined;
  compile(step: Step): (text: string) => string;
  /** What it makes of a picture, where it is for pictures. */
  picture?(step: Step): (picture: Picture) => Picture;
  examples: readonly StepExample<Step>[];
}

/** A step whatever its settings, as those know it who compile or tell a whole fill. */
export interface StepKind {
  name: string;
  title: string;
  fields: readonly StepField[];
  begin(): object;
  label(limits: Limits): string;
  say(step: unknown): string;
  offer(limits: Limits): unknown;
  compile(step: unknown): (text: string) => string;
  picture?(step: unknown): (picture: Picture) => Picture;
  examples: readonly StepExample<unknown>[];
}

export function defineStep<Schema extends ZodType>(
  step: Omit<StepDefinition<Schema['_output']>, 'schema'> & { schema: Schema },
): StepKind & { schema: Schema } {
  const { picture, ...definition } = step;
  return {
    ...definition,
    say: (given) => step.say(step.schema.parse(given)),
    compile: (given) => step.compile(step.schema.parse(given)),
    ...(picture ? { picture: (given: unknown) => picture(step.schema.parse(given)) } : {}),
  };
}

/** Text in a step’s settings. */
export const longestSetting = 2000;
