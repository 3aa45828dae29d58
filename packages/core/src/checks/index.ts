import { absoluteLink } from './absolute-link.js';
import { advisedPicture } from './advised-picture.js';
import { advisedLength } from './advised-length.js';
import { allowedValue } from './allowed-value.js';
import { availability } from './availability.js';
import { capitals } from './capitals.js';
import { bannedWords } from './banned-words.js';
import { datesInOrder } from './dates-in-order.js';
import { familySize } from './family-size.js';
import { maxBytes } from './max-bytes.js';
import { minCount } from './min-count.js';
import { oneOf } from './one-of.js';
import { pictureFormat } from './picture-format.js';
import { pictureShape } from './picture-shape.js';
import { plainGround } from './plain-ground.js';
import { sameInFamily } from './same-in-family.js';
import { secureLink } from './secure-link.js';
import { termKnown } from './term-known.js';
import { textLanguage } from './text-language.js';
import { titleUnique } from './title-unique.js';
import { gtinDigits } from './gtin-digits.js';
import { gtinUnique } from './gtin-unique.js';
import { itemKeyUnique } from './item-key-unique.js';
import { limitsSayer } from './limits.js';
import { loaderOf } from './load.js';
import { markup } from './markup.js';
import { maxLength } from './max-length.js';
import { minLength } from './min-length.js';
import type { ChannelAttribute, Rulebook } from '../rulebooks/index.js';
import type { CheckMeta, CollectiveCheck, CompiledCheck, FamilyCheck, ItemCheck, ValueCheck } from './model.js';
import { numberRange } from './number-range.js';
import { pattern } from './pattern.js';
import { pictureSize } from './picture-size.js';
import { positivePrice } from './positive-price.js';
import { categoryLeaf, categoryMapped, recommended, required } from './required.js';
import { quota } from './quota.js';
import { repeatedWords } from './repeated-words.js';
import { salePrice } from './sale-price.js';
import { salesTalk } from './sales-talk.js';
import { siblingAxes } from './sibling-axes.js';
import { siblingOptions } from './sibling-options.js';
import { toldBy } from './told-by.js';
import { unit } from './unit.js';
import { valueCount } from './value-count.js';
import { valueKind } from './value-kind.js';
import { variantAxis } from './variant-axis.js';

export * from './model.js';

export const valueChecks: ValueCheck[] = [
  valueKind,
  valueCount,
  minCount,
  maxLength,
  maxBytes,
  minLength,
  pattern,
  allowedValue,
  termKnown,
  numberRange,
  positivePrice,
  absoluteLink,
  secureLink,
  gtinDigits,
  unit,
  pictureSize,
  pictureShape,
  pictureFormat,
  plainGround,
  salesTalk,
  bannedWords,
  capitals,
  repeatedWords,
  advisedLength,
  advisedPicture,
  markup,
];
/** Those a JSON Schema can say as well (rulebooks/schema.ts). */
export const schemaChecks: ValueCheck[] = [
  valueKind,
  maxLength,
  minLength,
  pattern,
  allowedValue,
  termKnown,
  numberRange,
  positivePrice,
  absoluteLink,
  secureLink,
  minCount,
];
/** The value checks that hold for an attribute, compiled once, run for every item. */
export function compileValueChecks(
  attribute: ChannelAttribute,
  rulebook: Rulebook,
  checks: readonly ValueCheck[] = valueChecks,
): CompiledCheck[] {
  return checks.flatMap(({ meta, compile }) => {
    const test = compile(attribute, rulebook);
    return test ? [{ id: meta.id, test }] : [];
  });
}

export const sayLimits = limitsSayer(valueChecks);

export const itemChecks: ItemCheck[] = [toldBy, oneOf, salePrice, datesInOrder, availability, textLanguage];
export const familyChecks: FamilyCheck[] = [variantAxis, siblingOptions, siblingAxes, familySize, sameInFamily];
export const collectiveChecks: CollectiveCheck[] = [gtinUnique, itemKeyUnique, titleUnique];
/** Checks that find something missing: what they find is let go where an exemption is granted. */
export const liftedByExemption: ReadonlySet<string> = new Set(
  [required, recommended, ...itemChecks].map(({ meta }) => meta.id),
);
export { mostInFamily } from './family-size.js';
export { isAxisIn, variantAxes } from './variant-axis.js';
export { quota } from './quota.js';
export { categoryLeaf, categoryMapped, recommended, required };

/** Those that a rulebook switches on, or gives settings. */
const ruled = [...valueChecks, ...itemChecks, ...familyChecks, ...collectiveChecks, quota];
const all = [required, recommended, categoryMapped, categoryLeaf, ...ruled];

/** Parses and cross-checks a rulebook, the settings of its checks too. */
export const loadRulebook = loaderOf(ruled);

/** Every check by id: severity, words, and the kind of fix. */
export const checkMeta: ReadonlyMap<string, CheckMeta> = new Map(all.map(({ meta }) => [meta.id, meta]));
