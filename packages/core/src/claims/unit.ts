/** All claims about a family and its variants in, what each of them holds out. */
import { type OptionPlan, isHiddenBy, noPlan, optionsBy, surchargeBy } from '../catalog/index.js';
import { type Attribute, type SingleValue, type Value, currentValue } from '../values/index.js';
import { type Around, computedSteps, workOut } from '../computed/index.js';
import {
  type Author,
  type Claim,
  type Claimed,
  type Resolved,
  type Trust,
  empty,
  nameOfAuthor,
  onlyClaim,
  resolveClaims,
} from './resolve.js';

export interface SourceRecord {
  id: number;
  supplier: string;
  rank: number;
  /** Sorts as time does: when the batch was read. */
  at: string;
  /** By slot: attribute key, or "key@language". */
  values: Record<string, Value>;
  options: [string, string][];
}

export interface Edited {
  /** Attribute key, or "key@language". */
  slot: string;
  value: Claimed;
  at: string;
  by: string;
}

export interface UnitClaims {
  familyEdits: readonly Edited[];
  /** What people say of the family's options; nothing where it is absent. */
  plan?: OptionPlan | undefined;
  variants: readonly {
    id: number;
    records: readonly SourceRecord[];
    edits: readonly Edited[];
    /** Pieces of it in our own warehouses; 0 where absent. */
    stock?: number;
    /** What people say of its own value on an axis; null: it has none. */
    options?: readonly (readonly [axis: string, value: string | null])[] | undefined;
  }[];
}

export interface Slot extends Resolved {
  /** Entered at the family. */
  inherited: boolean;
}
export type Slots = Map<string, Slot>;

export interface ResolvedUnit {
  family: Slots;
  variants: {
    id: number;
    slots: Slots;
    options: [string, string][];
    /** One of its options is shown to nobody. */
    isHidden: boolean;
    /** What its options add to the family's price, by currency, in decimals. */
    surcharge: Record<string, string>;
  }[];
}

/** "title@en-GB" → ["title", "en-GB"]; languages are absent where the attribute has none. */
export function splitSlot(slot: string): [attribute: string, language: string | undefined] {
  const at = slot.indexOf('@');
  return at < 0 ? [slot, undefined] : [slot.slice(0, at), slot.slice(at + 1)];
}

/**
 * All that a unit holds: what is said (`resolveSaid`), and what follows from that where nobody says it.
 */
export function resolveUnit(
  unit: UnitClaims,
  dictionary: ReadonlyMap<string, Attribute>,
  policies: ReadonlyMap<string, Trust>,
): ResolvedUnit {
  const resolved = resolveSaid(unit, dictionary, policies);
  const variants = unit.variants.length;
  for (const [i, { slots }] of resolved.variants.entries())
    addComputed(slots, dictionary, { variants, stock: unit.variants[i]?.stock ?? 0 });
  const stock = unit.variants.reduce((sum, variant) => sum + (variant.stock ?? 0), 0);
  addComputed(resolved.family, dictionary, { variants, stock });
  // What a family lacks its variants may have.
  for (const [key, { origin, value }] of resolved.family)
    if (origin.from === 'computed' && value === undefined) resolved.family.delete(key);
  return resolved;
}

/**
 * The claims on these slots alone: what is held there follows from them, unless one of it is worked out from others; then they
 * are all there.
 */
export function claimsOn(
  slots: ReadonlySet<string>,
  unit: UnitClaims,
  dictionary: ReadonlyMap<string, Attribute>,
): UnitClaims {
  if (computedSteps(dictionary).some(({ attribute }) => slots.has(attribute.key))) return unit;
  const edits = (list: readonly Edited[]) => list.filter(({ slot }) => slots.has(slot));
  return {
    ...unit,
    familyEdits: edits(unit.familyEdits),
    variants: unit.variants.map((variant) => ({
      ...variant,
      edits: edits(variant.edits),
      records: variant.records.map((record) => ({
        ...record,
        values: Object.fromEntries(
          [...slots].flatMap((slot) => {
            const value = record.values[slot];
            return value === undefined ? [] : [[slot, value]];
          }),
        ),
      })),
    })),
  };
}

/** Adds what follows from the slots of one product, and from what there is around it, where nobody says it. */
export function addComputed(slots: Slots, dictionary: ReadonlyMap<string, Attribute>, around: Around): void {
  for (const step of computedSteps(dictionary)) {
    const { key } = step.attribute;
    if (slots.has(key)) continue;
    const worked = workOut(step, (input) => inputOf(slots.get(input.key)), around);
    slots.set(
      key,
      'value' in worked
        ? { value: worked.value, origin: { from: 'computed' }, why: worked.trace, against: [], inherited: false }
        : { value: undefined, origin: { from: 'computed' }, why: worked.reason, against: [], inherited: false },
    );
  }
}

function inputOf(slot: Slot | undefined): {
  value: SingleValue | undefined;
  said: { value: SingleValue; by: string }[];
} {
  const single = (value: Claimed | undefined): SingleValue[] =>
    value === undefined || value === empty || Array.isArray(value) ? [] : [value];
  if (!slot) return { value: undefined, said: [] };
  const by = slot.origin.from === 'computed' ? 'worked out' : nameOfAuthor(slot.origin);
  const [value] = single(slot.value);
  return {
    value,
    said: [
      ...(value === undefined ? [] : [{ value, by }]),
      ...slot.against.flatMap((claim) =>
        single(claim.value).map((other) => ({ value: other, by: nameOfAuthor(claim.origin) })),
      ),
    ],
  };
}

/**
 * Family-level attributes are resolved over the rows of all variants and inherited by each.
 * On variant-level attributes a variant's own edit wins over the family's edit, and that over every source.
 */
export function resolveSaid(
  unit: UnitClaims,
  dictionary: ReadonlyMap<string, Attribute>,
  policies: ReadonlyMap<string, Trust>,
): ResolvedUnit {
  const attributeOf = (slot: string) => dictionary.get(splitSlot(slot)[0]);
  const { plan = noPlan } = unit;
  const editClaim = ({ slot, value, at, by }: Edited): Claim => {
    const attribute = attributeOf(slot);
    const now = value === empty || !attribute ? value : currentValue(value, attribute);
    return { value: now, at, rank: -1, origin: { from: 'edit', at, by } };
  };
  const recordClaim = (record: SourceRecord, slot: string): Claim => ({
    value: said(record, slot, attributeOf),
    at: record.at,
    rank: record.rank,
    origin: { from: 'record', record: record.id, source: record.supplier },
  });
  const familyClaims = new Map<string, Claim[]>();
  for (const edit of unit.familyEdits) push(familyClaims, edit.slot, editClaim(edit));
  for (const { records } of unit.variants)
    for (const record of records)
      for (const slot of Object.keys(record.values))
        if (attributeOf(slot)?.level === 'family') push(familyClaims, slot, recordClaim(record, slot));
  const family = resolveAll(familyClaims, attributeOf, policies);

  const ownSlots = ({ records, edits }: UnitClaims['variants'][number]): Slots => {
    const [only] = records;
    if (only && records.length === 1 && edits.length === 0) return onlySource(only, attributeOf);
    const claims = new Map<string, Claim[]>();
    for (const edit of edits) push(claims, edit.slot, editClaim(edit));
    for (const record of records)
      for (const slot of Object.keys(record.values))
        if (attributeOf(slot)?.level === 'variant') push(claims, slot, recordClaim(record, slot));
    return resolveAll(claims, attributeOf, policies);
  };
  const variants = unit.variants.map((variant) => {
    const { id, records } = variant;
    const slots = ownSlots(variant);
    for (const [slot, inherited] of family) {
      const own = slots.get(slot);
      const wins = own === undefined || (inherited.origin.from === 'edit' && own.origin.from !== 'edit');
      if (wins) slots.set(slot, { ...inherited, inherited: true });
    }
    const ranked = [...records].sort((a, b) => a.rank - b.rank || a.id - b.id);
    const said = ranked.find((record) => record.options.length > 0)?.options ?? [];
    const options = optionsBy(plan, said, variant.options);
    return { id, slots, options, isHidden: isHiddenBy(plan, options), surcharge: surchargeBy(plan, options) };
  });
  return { family, variants };
}

/** What a record says of a slot, as its closed list has it now. */
function said({ values }: SourceRecord, slot: string, attributeOf: AttributeOf): Value {
  const [value, attribute] = [values[slot] ?? '', attributeOf(slot)];
  return attribute ? currentValue(value, attribute) : value;
}

function push(map: Map<string, Claim[]>, slot: string, claim: Claim): void {
  const list = map.get(slot);
  if (list) list.push(claim);
  else map.set(slot, [claim]);
}

const ranked: Trust = { policy: 'ranked' };

type AttributeOf = (slot: string) => Attribute | undefined;

function resolveAll(
  claims: Map<string, Claim[]>,
  attributeOf: AttributeOf,
  policies: ReadonlyMap<string, Trust>,
): Slots {
  const slots: Slots = new Map();
  for (const [slot, list] of claims) {
    const attribute = attributeOf(slot);
    const resolved = attribute && resolveClaims(list, policies.get(attribute.key) ?? ranked, attribute);
    if (resolved) slots.set(slot, { ...resolved, inherited: false });
  }
  return slots;
}

/** Most goods have one source that nobody has edited: there is nothing to decide. */
function onlySource(record: SourceRecord, attributeOf: AttributeOf): Slots {
  const slots: Slots = new Map();
  const origin: Author = { from: 'record', record: record.id, source: record.supplier };
  for (const slot of Object.keys(record.values))
    if (attributeOf(slot)?.level === 'variant')
      slots.set(slot, {
        value: said(record, slot, attributeOf),
        origin,
        why: onlyClaim,
        against: [],
        inherited: false,
      });
  return slots;
}
