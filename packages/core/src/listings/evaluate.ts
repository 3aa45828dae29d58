/** The pipeline: a family with its variants at a place → values, findings, collective keys. Pure, synchronous, hot. */
import type { Family, Variant } from '../catalog/index.js';
import {
  type ChannelValue,
  type Item,
  type Params,
  categoryLeaf,
  categoryMapped,
  checkMeta,
  collectiveChecks,
  familyChecks,
  itemChecks,
  quota,
  recommended,
  required,
  sayLimits,
} from '../checks/index.js';
import { compileCondition, conditionAttributes } from '../conditions/index.js';
import { type ChannelAttribute, type Rulebook, attributesFor, isUnder, sayChannelValue } from '../rulebooks/index.js';
import { keyOf, listOf } from '../values/index.js';
import { type Behind, causeKey, causeOfFault, causeOfMissing } from './causes.js';
import { type Link, type RulePath, type TraceStep, fillCurrencies } from '../fills/index.js';
import { type CompiledAttribute, compileAttribute } from './attribute.js';
import { firstOf } from './typed.js';
import { type Mapped, compileMap } from './mapped.js';
import { compilePresets } from './presets.js';
import type { PlaceSetup, PlacedFill } from './place.js';
import { comparables, variantLookup, withUnknown } from './lookup.js';
import { isMuted, nextChange } from './moments.js';
import type { View } from './sources.js';

export interface Finding {
  check: string;
  severity: 'blocker' | 'advice';
  /** Channel attribute. */
  attribute: string;
  cause: string;
  params: Params;
}

export type Readiness = 'blocked' | 'ready' | 'not for this channel';
/** Whether the place has the goods at all: in its assortment, out of it, or not sold there by the channel's own rule. */
export type Standing = 'in' | 'left' | 'not for this channel';

/** A key that a check of several items goes by, and what one would change if too many share it. */
export interface CollectiveKey {
  check: string;
  key: string;
  cause: string;
}

export interface Evaluated {
  variant: number;
  standing: Standing;
  /** Says something only where it stands in. */
  readiness: Readiness;
  /** Channel category, where there is one. */
  category: string | undefined;
  values: Item;
  findings: Finding[];
  /** Why it is not for this channel, in the rulebook's words. */
  notFor: string | undefined;
  /** Each once. */
  keys: CollectiveKey[];
  /** Its findings are no causes to mend for now. */
  isMuted: boolean;
  /** Day on which the answer may be another (ISO 8601), if any. */
  nextChangeAt: string | undefined;
}

/** By hand, or by a rule of a fill; without `placed` nothing does. */
export type Giving = { by: 'pin' } | { by: 'fill'; placed: PlacedFill | undefined; path: RulePath };

/** What holds in one channel category. */
interface Plan {
  attributes: CompiledAttribute[];
  byKey: Map<string, CompiledAttribute>;
}

export interface CompiledPlace {
  setup: PlaceSetup;
  /** One answer a variant, in their order; those out of the assortment have left, and their siblings know nothing of them. */
  evaluate(family: Family, today: string): Evaluated[];
  /** Whether the assortment has it: by hand, or by its condition; never what a hidden option has. */
  isWanted(family: Family, variant: Variant): boolean;
  trace(family: Family, variant: Variant, attribute: string, today: string): TraceStep[];
  /** What gives a variant its value of an attribute, or would. */
  giving(family: Family, variant: Variant, attribute: string, today: string): Giving;
  /** Fills of an attribute that are for a variant, the one that wins first. */
  fitting(family: Family, variant: Variant, attribute: string): PlacedFill[];
  /** Where a variant stands in the channel's tree, and by which split. */
  mapped(variant: Variant): Mapped;
  /** Presets applied to a variant, by number, in the order they are asked. */
  presets(family: Family, variant: Variant): number[];
  /** Attributes asked for in a channel category. */
  attributes(category: string | undefined): ChannelAttribute[];
  /** How many listings the channel takes of the place, and what is found of each that is beyond. */
  quota: { most: number; finding: Finding } | undefined;
}

export function compilePlace(setup: PlaceSetup): CompiledPlace {
  const { rulebook, dictionary, market } = setup;
  const plans = new Map<string | undefined, Plan>();
  const parents = new Set(rulebook.categories.map(({ path }) => path.slice(0, Math.max(0, path.lastIndexOf('/')))));
  const currencies = [...new Set([setup.currency, ...setup.fills.flatMap(({ fill }) => fillCurrencies(fill.rule))])];
  const lookup = variantLookup(dictionary, setup.language);
  const mapped = compileMap(setup);
  const presets = compilePresets(setup);
  const inAssortment = compileCondition(setup.assortment, comparables(dictionary), lookup);
  const isWanted = (family: Family, variant: Variant): boolean =>
    variant.isHidden !== true && (setup.hand.get(variant.id) ?? setup.hand.get(family.id) ?? inAssortment(variant));
  const eligibility = rulebook.eligibility.map((rule) => ({
    rule,
    hits: rule.when
      ? compileCondition(rule.when, withUnknown(dictionary, conditionAttributes(rule.when)), lookup)
      : () => true,
    isOf: (category: string | undefined) =>
      rule.in === undefined || (category !== undefined && isUnder(category, rule.in)),
  }));
  const closed = rulebook.markets.some(({ key }) => key === market)
    ? undefined
    : `${rulebook.name} takes no goods in this market any more`;
  const exemptions = (setup.exempt ?? []).map(({ attribute, condition }) => ({
    attribute,
    hits: compileCondition(condition, withUnknown(dictionary, conditionAttributes(condition)), lookup),
  }));
  const isExempt = (variant: Variant, attribute: string): boolean =>
    exemptions.some((each) => each.attribute === attribute && each.hits(variant));
  const item = itemChecks.flatMap(({ meta, compile }) =>
    compiled(meta.id, compile(rulebook, { language: setup.language })),
  );
  const families = familyChecks.flatMap(({ meta, compile }) => compiled(meta.id, compile(rulebook)));
  const collective = collectiveChecks.flatMap(({ meta, compile }) => compiled(meta.id, compile(rulebook)));

  const planFor = (category: string | undefined): Plan => {
    const found = plans.get(category);
    if (found) return found;
    const attributes = attributesFor(rulebook, category, market).map((attribute) =>
      compileAttribute(attribute, category, setup, { mapped, presets }),
    );
    const plan = { attributes, byKey: new Map(attributes.map((attribute) => [attribute.attribute.key, attribute])) };
    plans.set(category, plan);
    return plan;
  };

  const categoryOf = (variant: Variant): string | undefined => mapped(variant).target;

  function evaluateVariant(family: Family, variant: Variant, today: string): Evaluated {
    const category = categoryOf(variant);
    const view: View = { variant, family, today };
    const result: Evaluated = {
      variant: variant.id,
      standing: 'in',
      readiness: 'ready',
      category,
      values: {},
      findings: [],
      notFor: undefined,
      keys: [],
      isMuted: isMuted(variant, today),
      nextChangeAt: nextChange(variant, currencies, today),
    };
    if (!isWanted(family, variant)) {
      result.standing = 'left';
      result.readiness = 'not for this channel';
      result.notFor = 'It left the assortment';
      return result;
    }
    const notFor = closed ?? eligibility.find(({ hits, isOf }) => isOf(category) && hits(variant))?.rule.words;
    if (notFor !== undefined) {
      result.standing = 'not for this channel';
      result.readiness = 'not for this channel';
      result.notFor = notFor;
      return result;
    }
    judgeCategory(variant, category, result);
    const plan = planFor(category);
    const pins = setup.pins.get(variant.id);
    const { values, findings } = result;
    // A value may be required by what others are: all are known before any is judged.
    const given = plan.attributes.map(({ attribute, giving, typed }) => {
      const raw = pins?.[attribute.key] ?? giving(view).fill.value(view);
      const value = raw === undefined ? undefined : typed(raw);
      if (value === undefined || value === '') return undefined;
      values[attribute.key] = firstOf(value, attribute.limits.maxCount);
      return value;
    });
    plan.attributes.forEach((attribute, i) => judgeValue(attribute, given[i], view, result));
    for (const { id, part } of item) {
      const fault = part(values, { stock: Math.max(0, variant.stock) });
      if (fault && !isExempt(variant, fault.attribute))
        findings.push(
          faultFinding(id, fault.attribute, fault.params, behind(fault.attribute, plan, view, pins), undefined),
        );
    }
    for (const { id, part } of collective) {
      const keys = part.keys(values);
      if (keys.length === 0) continue;
      const cause = causeOfFault(setup, id, part.attribute, behind(part.attribute, plan, view, pins), '');
      for (const key of new Set(keys)) result.keys.push({ check: id, key, cause });
    }
    return result;
  }

  const own = listOf(dictionary, 'category');
  const categoryKey =
    rulebook.attributes.find(({ key, type }) => type === 'category' && key !== rulebook.secondCategory)?.key ??
    'category';

  function judgeCategory(variant: Variant, category: string | undefined, result: Evaluated): void {
    if (rulebook.categoryNeed === 'optional') return;
    const severity = rulebook.categoryNeed === 'required' ? 'blocker' : 'advice';
    const add = (check: string, cause: string, params: Params) =>
      result.findings.push({ check, severity, attribute: categoryKey, cause, params });
    const mapCause = (name: string) =>
      causeKey({
        ...{ kind: 'map-category', channel: setup.channel, category: name },
        market: setup.ownMaps?.has(name) ? market : '',
      });
    if (variant.category === undefined)
      add(
        categoryMapped.meta.id,
        causeKey({ kind: 'catalog', attribute: keyOf(dictionary, 'category') ?? 'category' }),
        {},
      );
    else if (category === undefined)
      add(categoryMapped.meta.id, mapCause(variant.category), { category: own.say(variant.category) });
    else if (rulebook.leafOnly && parents.has(category))
      add(categoryLeaf.meta.id, mapCause(variant.category), { path: category });
  }

  function faultFinding(
    check: string,
    attribute: string,
    params: Params,
    of: Behind,
    value: ChannelValue | undefined,
  ): Finding {
    const cause = causeOfFault(setup, check, attribute, of, value === undefined ? '' : sayChannelValue(value));
    return { check, severity: checkMeta.get(check)?.severity ?? 'blocker', attribute, cause, params };
  }

  /** What an attribute is given, or that it is given nothing. */
  function judgeValue(
    { attribute, giving, checks, requiredWhen }: CompiledAttribute,
    value: ChannelValue | undefined,
    view: View,
    { values, findings }: Evaluated,
  ): void {
    const { key, need, type } = attribute;
    if (value === undefined) {
      const isRequired = need === 'required' || requiredWhen?.(values) === true;
      // What is said of a missing category is said of the category map.
      if (type === 'category' || (!isRequired && need === 'optional')) return;
      if (isExempt(view.variant, key)) return;
      const { meta } = isRequired ? required : recommended;
      const { fill, placed } = giving(view);
      const cause = causeOfMissing(setup, key, { link: fill.blame(view), placed });
      findings.push({ check: meta.id, severity: meta.severity, attribute: key, cause, params: {} });
      return;
    }
    for (const { id, test } of checks) {
      const params = test(value);
      if (!params) continue;
      const isPinned = setup.pins.get(view.variant.id)?.[key] !== undefined;
      const { fill, placed } = giving(view);
      findings.push(
        faultFinding(id, key, params, { link: isPinned ? { at: 'pin' } : fill.origin(view), placed }, value),
      );
    }
  }

  /** What stands behind an attribute's value. */
  function behind(attribute: string, plan: Plan, view: View, pins: Record<string, string> | undefined): Behind {
    if (pins?.[attribute] !== undefined) return { link: { at: 'pin' } };
    const given = plan.byKey.get(attribute)?.giving(view);
    return { link: given?.fill.origin(view) ?? { at: 'fill' }, placed: given?.placed };
  }

  const taken = quota.compile(rulebook);

  return {
    setup,
    quota: taken && {
      most: taken.most,
      finding: faultFinding(quota.meta.id, taken.attribute, { most: taken.most }, { link: { at: 'fill' } }, undefined),
    },
    isWanted,
    mapped,
    attributes: (category) => planFor(category).attributes.map((attribute) => attribute.attribute),
    evaluate(family, today) {
      const results = family.variants.map((variant) => evaluateVariant(family, variant, today));
      const listed = family.isSingle ? [] : results.flatMap((result, i) => (result.notFor === undefined ? [i] : []));
      if (listed.length > 1) {
        const siblings = listed.map((i) => ({
          item: results[i]?.values ?? {},
          category: results[i]?.category,
          options: family.variants[i]?.options ?? [],
        }));
        for (const { id, part } of families)
          part(siblings).forEach((fault, n) => {
            const result = results[listed[n] ?? -1];
            if (!fault || !result) return;
            const link: Link = { at: 'catalog', attribute: 'options' };
            result.findings.push(faultFinding(id, fault.attribute, fault.params, { link }, undefined));
          });
      }
      for (const result of results)
        if (result.readiness === 'ready' && result.findings.some((finding) => finding.severity === 'blocker'))
          result.readiness = 'blocked';
      return results;
    },
    giving(family, variant, key, today) {
      if (setup.pins.get(variant.id)?.[key] !== undefined) return { by: 'pin' };
      const view: View = { variant, family, today };
      const given = planFor(categoryOf(variant)).byKey.get(key)?.giving(view);
      return { by: 'fill', placed: given?.placed, path: given?.fill.serving?.(view) ?? [] };
    },
    fitting: (family, variant, key) =>
      planFor(categoryOf(variant)).byKey.get(key)?.fitting({ variant, family, today: '' }) ?? [],
    presets: (family, variant) => presets.flatMap(({ id, applies }) => (applies(family, variant) ? [id] : [])),
    trace(family, variant, key, today) {
      const row = planFor(categoryOf(variant)).byKey.get(key);
      if (!row) return [{ at: 'channel', words: 'The channel does not ask for this attribute in this category' }];
      const view: View = { variant, family, today };
      const pinned = setup.pins.get(variant.id)?.[key];
      const { fill, placed } = row.giving(view);
      const given = pinned ?? fill.value(view);
      const value = given === undefined ? undefined : row.typed(given);
      const asks: TraceStep = {
        at: 'channel',
        words: [`${row.attribute.label} is ${row.attribute.need}`, ...sayLimits(row.attribute, rulebook)].join(', '),
        ...(value === undefined ? {} : { value: sayChannelValue(value) }),
      };
      if (pinned !== undefined) return [asks, { at: 'pin', words: 'Pinned for this listing', value: pinned }];
      const preset = setup.presets?.find(({ id }) => id === placed?.preset);
      return [
        asks,
        ...(preset ? [{ at: 'fill' as const, words: `By the preset “${preset.name}”` }] : []),
        ...fill.trace(view),
      ];
    },
  };
}

function compiled<T>(id: string, part: T | undefined): { id: string; part: T }[] {
  return part === undefined ? [] : [{ id, part }];
}

/** What names an item to the channel; undefined where it has none. */
export function itemKeyOf({ values }: Evaluated, { exchange }: Rulebook): string | undefined {
  const value = values[exchange.itemKey];
  return value === undefined ? undefined : sayChannelValue(value);
}

/** A short print of an evaluation's outcome: rows whose print is unchanged are not written again (FNV-1a, 52 bits). */
export function printOf(result: Evaluated): string {
  const text = JSON.stringify([
    result.readiness,
    result.category,
    result.findings,
    result.notFor,
    result.keys,
    result.nextChangeAt,
    ...(result.isMuted ? ['muted'] : []),
  ]);
  let high = 0x811c9dc5;
  let low = 0x1b873593;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    high = Math.imul(high ^ unit, 0x01000193);
    low = Math.imul(low ^ unit, 0x85ebca6b);
  }
  return ((high >>> 0) * 0x100000 + ((low >>> 0) & 0xfffff)).toString(36);
}
