/** Compiles fills for a place: from a view of a variant to a channel value, and where there is none, to the link that is missing. */
import { type ChannelValue, sayChannelValue } from '../rulebooks/index.js';
import { compileCondition, conditionAttributes } from '../conditions/index.js';
import {
  type CompiledFill,
  type Fill,
  type RuleContext,
  type RuleSource,
  type TraceStep,
  compileFit,
  compilePictureFit,
  compileRule,
  sayFit,
} from '../fills/index.js';
import { comparables, variantLookup } from './lookup.js';
import type { PlaceSetup } from './place.js';
import { type Source, type View, compileSource } from './sources.js';

export function compileFill(fill: Fill, setup: PlaceSetup): CompiledFill<View> {
  const rule = compileRule(fill.rule, contextOf(setup));
  if (fill.fit.length === 0) return rule;
  const steps = fill.fit.map(compileFit);
  const pictured = fill.fit.flatMap((step) => compilePictureFit(step) ?? []);
  const fit = (value: ChannelValue): ChannelValue => {
    if (isFitted(value)) return steps.reduce((text, step) => step(text), sayChannelValue(value));
    return typeof value === 'object' && value.kind === 'pictures' && pictured.length > 0
      ? { ...value, pictures: value.pictures.map((picture) => pictured.reduce((made, step) => step(made), picture)) }
      : value;
  };
  return {
    ...rule,
    value: (view) => {
      const value = rule.value(view);
      return value === undefined ? undefined : fit(value);
    },
    trace: (view) => {
      const value = rule.value(view);
      const words = fill.fit.map(sayFit).join(', then ');
      return value === undefined
        ? rule.trace(view)
        : [{ at: 'fit', words, value: sayChannelValue(fit(value)) }, ...rule.trace(view)];
    },
  };
}

/** Steps for texts work on them, and on measures as they are written. */
const isFitted = (value: ChannelValue): boolean =>
  typeof value === 'string' ||
  typeof value === 'number' ||
  (typeof value === 'object' && (value.kind === 'measure' || value.kind === 'texts'));

/** What rules are compiled with at a place. */
function contextOf(setup: PlaceSetup): RuleContext<View> {
  const lookup = variantLookup(setup.dictionary, setup.language);
  const known = comparables(setup.dictionary);
  const context: RuleContext<View> = {
    source: (name, currency = setup.currency) => {
      const source = compileSource(name, { ...setup, currency });
      return source && withStep(source);
    },
    currency: setup.currency,
    rate: (from) => setup.rates?.get(from),
    holds: (condition) =>
      conditionAttributes(condition).every((name) => known.has(name))
        ? compileCondition(condition, known, ({ variant }, name, of) => lookup(variant, name, of))
        : () => false,
    compile: (rule) => compileRule(rule, context),
  };
  return context;
}

const withStep = (source: Source): RuleSource<View> => ({ ...source, step: (view) => catalogStep(source, view) });

function catalogStep({ label, link, read }: Source, view: View): TraceStep {
  const value = read(view);
  return {
    at: 'catalog',
    label,
    words: value === undefined ? `${label} is empty in the catalog` : `${label} in the catalog`,
    ...(value === undefined ? {} : { value: sayChannelValue(value) }),
    ...(link.at === 'catalog'
      ? { attribute: link.attribute, ...(link.language ? { language: link.language } : {}) }
      : {}),
  };
}
