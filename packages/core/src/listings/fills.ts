/** Compiles fills: from a view of a variant to a channel value, and where there is none, to the link that is missing. */
import type { ChannelValue } from '../checks/index.js';
import { type Fill, type FillRule, compileFit, sayFit } from '../fills/index.js';
import { compileCondition, conditionAttributes } from '../conditions/index.js';
import { type Attribute, foldText } from '../values/index.js';
import { variantLookup } from './lookup.js';
import type { Link, PlaceSetup, TraceStep } from './place.js';
import { sayValue } from './say.js';
import { type Source, type View, compileSource } from './sources.js';

export interface CompiledFill {
  value(view: View): ChannelValue | undefined;
  /** The first missing link, read from the channel back; only asked where `value` gave none. */
  blame(view: View): Link;
  /** What stands behind the value, for findings on the value itself. */
  origin(view: View): Link;
  trace(view: View): TraceStep[];
}

export function compileFill(fill: Fill, setup: PlaceSetup): CompiledFill {
  const rule = compileRule(fill.rule, setup);
  if (fill.fit.length === 0) return rule;
  const steps = fill.fit.map(compileFit);
  const fit = (value: ChannelValue) =>
    typeof value === 'string' ? steps.reduce((text, step) => step(text), value) : value;
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
        : [{ at: 'fit', words, value: sayValue(fit(value)) }, ...rule.trace(view)];
    },
  };
}

const none: CompiledFill = {
  value: () => undefined,
  blame: () => ({ at: 'fill' }),
  origin: () => ({ at: 'fill' }),
  trace: () => [{ at: 'fill', words: 'No fill gives this attribute a value' }],
};

/** For attributes without a fill. */
export const noFill = none;

function compileRule(rule: FillRule, setup: PlaceSetup): CompiledFill {
  switch (rule.kind) {
    case 'copy':
      return copy(rule.from, setup);
    case 'fixed':
      return {
        value: () => rule.value,
        blame: () => ({ at: 'fill' }),
        origin: () => ({ at: 'fill' }),
        trace: () => [{ at: 'fill', words: 'A fixed value', value: rule.value }],
      };
    case 'compose':
      return compose(rule, setup);
    case 'translate':
      return translate(rule, setup);
    case 'first':
      return first(rule.of.map((fillRule) => compileRule(fillRule, setup)));
    case 'when':
      return when(rule, setup);
  }
}

function copy(from: string, setup: PlaceSetup): CompiledFill {
  const source = compileSource(from, setup);
  if (!source) return none;
  return {
    value: source.read,
    blame: () => source.link,
    origin: () => source.link,
    trace: (view) => [{ at: 'fill', words: `Copies ${source.label}` }, catalogStep(source, view)],
  };
}

function compose(rule: Extract<FillRule, { kind: 'compose' }>, setup: PlaceSetup): CompiledFill {
  const parts = rule.parts.map((part) => {
    if ('text' in part) return { text: part.text };
    return { source: compileSource(part.from, setup), before: part.before ?? '', after: part.after ?? '' };
  });
  const sources = parts.flatMap((part) => (part.source ? [part.source] : []));
  const anchor = sources[0];
  const value = (view: View) => {
    let text = '';
    let found = false;
    for (const part of parts) {
      if (part.text !== undefined) text += part.text;
      else {
        const read = part.source?.read(view);
        if (read === undefined) continue;
        found = true;
        text += part.before + (part.source?.say(read) ?? '') + part.after;
      }
    }
    return found ? text.replace(/\s+/g, ' ').trim() : undefined;
  };
  const link: Link = anchor?.link ?? { at: 'fill' };
  return {
    value,
    blame: () => link,
    origin: () => link,
    trace: (view) => [
      { at: 'fill', words: `Composed from ${sources.map((source) => source.label).join(', ')}` },
      ...sources.map((source) => catalogStep(source, view)),
    ],
  };
}

function translate(rule: Extract<FillRule, { kind: 'translate' }>, setup: PlaceSetup): CompiledFill {
  const source = compileSource(rule.from, setup);
  if (!source) return none;
  const table = new Map(Object.entries(rule.table).map(([from, to]) => [foldText(from), to]));
  const exact = new Map(Object.entries(rule.table));
  const read = (view: View) => {
    const value = source.read(view);
    return value === undefined ? undefined : source.say(value);
  };
  const look = (text: string) => exact.get(text) ?? table.get(foldText(text));
  const value = (view: View) => {
    const text = read(view);
    return text === undefined ? undefined : (look(text) ?? (rule.otherwise === 'keep' ? text : undefined));
  };
  const blame = (view: View): Link => {
    const text = read(view);
    return text === undefined ? source.link : { at: 'translation', value: text };
  };
  return {
    value,
    blame,
    origin: blame,
    trace: (view) => {
      const text = read(view);
      const hit = text === undefined ? undefined : look(text);
      const words =
        text === undefined
          ? `Translates ${source.label}`
          : hit === undefined
            ? `Translates ${source.label}: “${text}” is not in the table${rule.otherwise === 'keep' ? ', so it is kept' : ''}`
            : `Translates ${source.label}: “${text}” becomes “${hit}”`;
      return [{ at: 'fill', words }, catalogStep(source, view)];
    },
  };
}

function first(of: CompiledFill[]): CompiledFill {
  const serving = (view: View) => of.find((compiledFill) => compiledFill.value(view) !== undefined);
  const last = of[0] ?? none;
  return {
    value: (view) => {
      for (const compiledFill of of) {
        const value = compiledFill.value(view);
        if (value !== undefined) return value;
      }
      return undefined;
    },
    /** A value that is there but untranslated is nearer to an answer than one that is missing. */
    blame: (view) =>
      of.map((compiledFill) => compiledFill.blame(view)).find((link) => link.at === 'translation') ?? last.blame(view),
    origin: (view) => (serving(view) ?? last).origin(view),
    trace: (view) => {
      const row = serving(view);
      const skipped = row ? of.indexOf(row) : of.length;
      const words = row
        ? `The first of ${of.length} rules with a value: number ${skipped + 1}`
        : `None of ${of.length} rules has a value`;
      return [{ at: 'fill', words }, ...(row ?? last).trace(view)];
    },
  };
}

function when(rule: Extract<FillRule, { kind: 'when' }>, setup: PlaceSetup): CompiledFill {
  const lookup = factLookup(setup);
  const known = comparables(setup.dictionary);
  const cases = rule.cases.map((part) => ({
    holds: conditionAttributes(part.if).every((name) => known.has(name))
      ? compileCondition(part.if, known, lookup)
      : () => false,
    then: compileRule(part.then, setup),
  }));
  const otherwise = rule.otherwise ? compileRule(rule.otherwise, setup) : none;
  const chosen = (view: View) => cases.findIndex(({ holds }) => holds(view));
  const serving = (view: View) => cases[chosen(view)]?.then ?? otherwise;
  return {
    value: (view) => serving(view).value(view),
    blame: (view) => serving(view).blame(view),
    origin: (view) => serving(view).origin(view),
    trace: (view) => {
      const at = chosen(view);
      const words = at < 0 ? `None of ${cases.length} cases holds` : `Case ${at + 1} of ${cases.length} holds`;
      const read = conditionAttributes((rule.cases[at] ?? rule.cases[0])?.if ?? { all: [] });
      const steps = read.flatMap((name) => {
        const source = compileSource(name, setup);
        return source ? [catalogStep(source, view)] : [];
      });
      return [{ at: 'fill', words }, ...steps, ...serving(view).trace(view)];
    },
  };
}

/** What the cases of fills can compare beside attributes. */
const stockFact: Attribute = {
  key: 'stock',
  label: 'Stock',
  type: 'number',
  many: false,
  perLanguage: false,
  level: 'variant',
  group: '',
};
/** All that the cases of fills can compare; one that compares anything else never holds. */
export const comparables = (dictionary: ReadonlyMap<string, Attribute>): ReadonlyMap<string, Attribute> =>
  new Map([[stockFact.key, stockFact], ...dictionary]);

function factLookup({ language }: PlaceSetup) {
  const lookup = variantLookup(language);
  return ({ variant }: View, attribute: string, of: string | undefined) =>
    attribute === stockFact.key ? Math.max(0, variant.stock) : lookup(variant, attribute, of);
}

function catalogStep({ label, link, read, say }: Source, view: View): TraceStep {
  const value = read(view);
  return {
    at: 'catalog',
    words: value === undefined ? `${label} is empty in the catalog` : `${label} in the catalog`,
    ...(value === undefined ? {} : { value: say(value) }),
    ...(link.at === 'catalog'
      ? { attribute: link.attribute, ...(link.language ? { language: link.language } : {}) }
      : {}),
  };
}
