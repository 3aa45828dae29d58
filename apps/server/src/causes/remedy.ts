/** What a person can do about a cause, in place: choose a category or a word, set a fill, fill in cells. */
import type { CauseDetail } from '@velvet-shelf/contract';
import { variantAxes } from '@velvet-shelf/core/checks';
import { type Cause, axisSources, causeKey, slotOf, sourcesFor } from '@velvet-shelf/core/listings';
import { takenValues, namesOf } from '@velvet-shelf/core/rulebooks';
import { typedText } from '../catalog/product.js';
import type { Services } from '../http/route.js';
import { catalogLabel, copiedFrom, mendingStep, sayCategory, sayOwnWord } from '@velvet-shelf/core/causes';
import { optionsOf } from '../dictionary/lists.js';
import { rulebookOf } from '../channels/places.js';
import { suggestValue } from '../channels/jobs.js';
import { suggestionsFor } from '../channels/suggestions.js';
import { apart } from '../jobs/aside.js';
import { loadSetup } from '../channels/setup.js';
import { fillsAt, slotKey } from '../channels/slots.js';
import type { Executor } from '../db/client.js';
import { columnName, pinAttribute } from '../listings/cells.js';
import { loadFamilies } from '../listings/families.js';
import { pinsOf } from '../listings/pins.js';
import { type Scene, type Touched, placeOf, touchedBy } from './scene.js';

/** The value a cell would change, as one would type it. */
export function presentText(slot: CellSlot | undefined, row: Touched, { dictionary }: Scene): string | null {
  if (!slot) return null;
  const { attribute: key, language } = slot;
  if (slot.pins) return slot.pins.get(row.id) ?? null;
  if (key === 'price') return row.offers[dictionary.currency]?.regular ?? null;
  if (key === 'salePrice') return row.offers[dictionary.currency]?.sale?.amount ?? null;
  if (key === 'stock') return String(row.stock);
  const attribute = dictionary.attributes.get(key);
  if (!attribute) return null;
  const value = attribute.perLanguage
    ? row.texts?.[key]?.[language ?? dictionary.home]
    : (row.facts[key] ?? (attribute.type === 'richText' ? row.texts?.[key]?.[dictionary.home] : undefined));
  return value === undefined ? null : typedText(value, attribute);
}

/** What of goods is corrected to mend a cause. */
export interface CellSlot {
  attribute: string;
  language: string | undefined;
  /** What is pinned, by listing, where that is what is corrected. */
  pins?: ReadonlyMap<number, string>;
}

/** Of a value that does not fit a channel it is the one its fill copies; of one set by hand, what was set. */
export async function cellSlot(
  db: Executor,
  all: Scene,
  cause: Cause,
  touched: readonly Pick<Touched, 'id' | 'place_id'>[],
): Promise<CellSlot | undefined> {
  if (cause.kind === 'catalog') return { attribute: cause.attribute, language: cause.language };
  if (cause.kind === 'pin') {
    const { attribute: key } = cause;
    const [at] = touched;
    const slots = touched.map(({ id }) => ({ listing: id, key }));
    const pins = new Map([...(await pinsOf(db, slots))].map(([name, text]) => [Number(name.split(' ')[0]), text]));
    return at && { attribute: pinAttribute, language: columnName(at.place_id, key), pins };
  }
  if (cause.kind !== 'fit') return undefined;
  const place = placeOf(all, cause);
  const at = slotKey({ attribute: cause.attribute, ...slotOf(cause) });
  const held = (await fillsAt(db, place)).find((fill) => slotKey(fill) === at);
  const own = held && all.dictionary.attributes.get(copiedFrom(held.fill.rule) ?? '');
  return own && { attribute: own.key, language: own.perLanguage ? place.language : undefined };
}

export async function remedyFor(
  services: Services,
  all: Scene,
  cause: Cause,
  touched: Touched[],
  cell: CellSlot | undefined,
): Promise<CauseDetail['remedy']> {
  const { db } = services;
  const { dictionary, rulebooks } = all;
  switch (cause.kind) {
    case 'map-category': {
      const place = placeOf(all, cause);
      const rulebook = await rulebookOf(db, place);
      const names = namesOf(rulebook);
      const suggested = (await suggestionsFor(services, place.id))[cause.category] ?? [];
      return {
        kind: 'choose',
        placeId: place.id,
        question: `Where do ${sayCategory(cause.category, dictionary.attributes)} belong on ${place.channelName}?`,
        options: rulebook.categories.map(({ path }) => ({
          value: path,
          label: names(path).join(' / '),
          score: null,
          evidence: [],
        })),
        suggested: suggested.map(({ path, names: list, score, evidence }) => ({
          value: path,
          label: list.join(' / '),
          score,
          evidence,
        })),
        field: null,
      };
    }
    case 'translate': {
      const place = placeOf(all, cause);
      const attribute = rulebooks.get(place.id)?.attributes.find((attribute) => attribute.key === cause.attribute);
      const values = attribute?.limits.values ?? [];
      const word = sayOwnWord(cause, dictionary.attributes);
      return {
        kind: 'choose',
        placeId: place.id,
        question: `Which ${attribute?.label.toLowerCase() ?? 'value'} is “${word}” on ${place.channelName}?`,
        options: values.map((value) => ({ value, label: value, score: null, evidence: [] })),
        suggested: (
          await apart(suggestValue, services, {
            place: place.id,
            attribute: cause.attribute,
            value: cause.value,
            of: cause.of,
          })
        ).map((one) => ({ ...one, label: one.value })),
        field: attribute ? { attribute: attribute.key, label: attribute.label, ...slotOf(cause) } : null,
      };
    }
    case 'fill': {
      const place = placeOf(all, cause);
      const attribute = rulebooks.get(place.id)?.attributes.find((attribute) => attribute.key === cause.attribute);
      if (!attribute) return { kind: 'none', words: 'The rulebook no longer asks for this attribute.' };
      return {
        kind: 'fill',
        placeId: place.id,
        attribute: attribute.key,
        label: attribute.label,
        sources: sourcesFor(attribute, dictionary.attributes),
        values: takenValues(attribute),
      };
    }
    case 'fit': {
      const place = placeOf(all, cause);
      const attribute = rulebooks.get(place.id)?.attributes.find((attribute) => attribute.key === cause.attribute);
      const own = cell && dictionary.attributes.get(cell.attribute);
      const mending = mendingStep(cause.check, attribute?.limits ?? {});
      return {
        kind: 'cells',
        attribute: own?.key ?? null,
        language: cell?.language ?? null,
        label: own?.label ?? attribute?.label ?? cause.attribute,
        type: own?.type ?? 'text',
        many: own?.many === true,
        choices: null,
        fit: mending
          ? {
              placeId: place.id,
              attribute: cause.attribute,
              words: `${mending.label}, on ${place.channelName} only`,
            }
          : null,
      };
    }
    case 'catalog': {
      const own = dictionary.attributes.get(cause.attribute);
      if (['family', 'options'].includes(cause.attribute)) return familiesOf(touched);
      return {
        kind: 'cells',
        attribute: cause.attribute,
        language: cause.language ?? null,
        label: catalogLabel(cause.attribute, dictionary.attributes),
        type: own?.type ?? 'text',
        many: own?.many === true,
        choices: own ? optionsOf(own, dictionary.home) : null,
        fit: null,
      };
    }
    case 'axis':
      return axisRemedy(services, all, cause);
    case 'pin': {
      const [at] = touched;
      const place = at && all.places.find(({ id }) => id === at.place_id);
      const attribute = place && rulebooks.get(place.id)?.attributes.find(({ key }) => key === cause.attribute);
      if (!place || !attribute) return { kind: 'none', words: 'Nothing is set by hand here any more.' };
      return {
        kind: 'cells',
        attribute: pinAttribute,
        language: null,
        label: `${attribute.label}, set by hand on ${place.name}`,
        type: 'text',
        many: false,
        choices: takenValues(attribute)?.map((name) => ({ key: name, name })) ?? null,
        fit: {
          ...{ placeId: place.id, attribute: cause.attribute },
          words: `Let all of them follow the fill of ${attribute.label.toLowerCase()} again`,
        },
      };
    }
    case 'assortment':
      return {
        kind: 'assortment',
        placeId: placeOf(all, cause).id,
        words:
          'Those that were there first stay; the others go as soon as there is room. Narrow which goods the place gets, or ask the channel for more room.',
      };
    case 'report':
      return {
        kind: 'none',
        words: touched[0]
          ? 'The channel refused these. Open a listing to see its words; once corrected, build and offer the feed again.'
          : 'Nothing carries this any more.',
      };
  }
}

/** Families shown to be put right one after another. */
const mostFixed = 50;

/** The families of listings that a cause touches, whose options are changed on their racks. */
function familiesOf(touched: readonly Touched[]): CauseDetail['remedy'] {
  const families = new Map<number, { id: number; title: string; listings: number }>();
  for (const { unit, unitTitle, title, sku } of touched) {
    const known = families.get(unit) ?? { id: unit, title: unitTitle ?? title ?? sku ?? '', listings: 0 };
    known.listings++;
    families.set(unit, known);
  }
  const ranked = [...families.values()].sort((a, b) => b.listings - a.listings);
  return {
    kind: 'families',
    words:
      'Their variants are put right on the rack of each family: a value renamed, an option more, or a variant changed.',
    families: ranked.slice(0, mostFixed),
    more: Math.max(0, ranked.length - mostFixed),
  };
}

/** Listings, and families of them, looked at for what tells their variants apart. */
const mostTouched = 2000;
const mostFamilies = 500;

/** Each of our axes as a source of each axis the channel knows, with what it would tell apart. */
async function axisRemedy(
  { db, config }: Services,
  all: Scene,
  cause: Extract<Cause, { kind: 'axis' }>,
): Promise<CauseDetail['remedy']> {
  const place = placeOf(all, cause);
  const setup = await loadSetup(db, place, all.dictionary, config.address);
  const known = variantAxes(setup.rulebook);
  const axes = setup.rulebook.attributes.filter(({ key }) => known.has(key));
  const touched = await touchedBy(db, causeKey(cause), mostTouched);
  const units = [...new Set(touched.map(({ unit }) => unit))].slice(0, mostFamilies);
  const families = await loadFamilies(db, place.id, units);
  const members = new Set(families.flatMap(({ variants }) => variants.map(({ id }) => id)));
  const own = new Set(touched.flatMap(({ product }) => (members.has(product) ? [product] : [])));
  const options = axisSources(families, own, axes, setup).map(
    ({ axis, axisLabel, source, sourceLabel, filled, apart }) => ({
      value: sayAxisFix(axis, source),
      label: `${axisLabel}, filled with our ${sourceLabel.toLowerCase()}`,
      score: Math.round((100 * apart) / Math.max(1, own.size)),
      evidence: [`tells ${apart} of ${own.size} from all their siblings`, `has a value on ${filled}`],
    }),
  );
  if (options.length === 0)
    return {
      kind: 'none',
      words: `${place.channelName} tells variants apart by ${axes.map(({ label }) => label.toLowerCase()).join(' or ')}. None of our axes has a value for these: give the variants options first.`,
    };
  return {
    kind: 'choose',
    placeId: place.id,
    question: `What tells these variants apart on ${place.channelName}?`,
    options,
    suggested: options.slice(0, 3),
    field: null,
  };
}

/** A choice among those of `axisRemedy`, and what it stands for. */
const sayAxisFix = (axis: string, source: string) => `${axis}=${source}`;
export function readAxisFix(value: string): { axis: string; source: string } {
  const [axis = '', source = ''] = value.split('=');
  return { axis, source };
}
