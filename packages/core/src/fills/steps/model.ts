/** What a step of a fill is: it cleans or shortens the text a rule gave. One file a step; index.ts lists them. */
import type { ZodType } from 'zod';

/** What a channel takes of an attribute, as far as steps look at it. */
export interface Limits {
  /** Characters. */
  maxLength?: number | undefined;
  units?: readonly string[] | undefined;
  /** Markup, by its tags. */
  tags?: readonly string[] | undefined;
}

export interface StepExample<Step> {
  step: Step;
  from: string;
  to: string;
}

interface StepDefinition<Step> {
  /** Its name in a fill: `do`. */
  name: string;
  schema: ZodType<Step>;
  /** As it is offered for an attribute with these limits: “Take markup out”. */
  label(limits: Limits): string;
  /** As it is told of a value: “markup taken out”. */
  say(step: Step): string;
  /** The step as one click switches it on for an attribute with these limits; undefined where it takes more than a click. */
  offer(limits: Limits): Step | undefined;
  compile(step: Step): (text: string) => string;
  examples: readonly StepExample<Step>[];
}

/** A step whatever its settings, as those know it who compile or tell a whole fill. */
export interface StepKind {
  name: string;
  label(limits: Limits): string;
  say(step: unknown): string;
  offer(limits: Limits): unknown;
  compile(step: unknown): (text: string) => string;
  examples: readonly StepExample<unknown>[];
}

export const defineStep = <Schema extends ZodType>(
  step: Omit<StepDefinition<Schema['_output']>, 'schema'> & { schema: Schema },
): StepKind & { schema: Schema } => ({
  ...step,
  say: (given) => step.say(step.schema.parse(given)),
  compile: (given) => step.compile(step.schema.parse(given)),
});

/** Text in a step’s settings. */
export const longestSetting = 2000;
