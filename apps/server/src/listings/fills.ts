/** What fills give: every attribute a channel asks for with what its fill comes to, and what another one would. */
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import { sayLimits } from '@velvet-shelf/core/checks';
import { type Fill, offeredFits } from '@velvet-shelf/core/fills';
import { ownKind, fillFor, pictureSources, sourcesFor, suggestFills } from '@velvet-shelf/core/listings';
import { takenValues, namesOf } from '@velvet-shelf/core/rulebooks';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { mustBeThere, mustCompare } from '../channels/fills.js';
import { type SetupChange, loadSetup } from '../channels/setup.js';
import type { FillChange } from '../channels/slots.js';
import { getPlace, rulebookOf } from '../channels/places.js';
import { notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { kept, nameOf } from '../kept/keep.js';
import type { GoodsInput } from './fill-goods.js';
import { countFills, goodsOfFill } from './jobs.js';

type Described = Omit<ChannelAttributeAnswer, keyof typeof uncounted | 'effect' | 'looked'>;

/** Attributes the channel asks for, each with its fill and what could fill it. */
async function describeFills(
  { db, config }: Services,
  placeId: number,
  change: SetupChange = {},
): Promise<Described[]> {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const setup = await loadSetup(db, place, dictionary, config.address, change);
  const placed = new Map(
    setup.rulebook.attributes.flatMap(({ key }) => {
      const fill = fillFor(setup, key, undefined);
      return fill ? [[key, fill] as const] : [];
    }),
  );
  const suggested = suggestFills(setup.rulebook, dictionary.attributes);
  return setup.rulebook.attributes
    .filter(({ type }) => type !== 'category')
    .map((attribute) => ({
      key: attribute.key,
      label: attribute.label,
      help: attribute.help ?? null,
      type: attribute.type,
      need: attribute.need,
      limits: sayLimits(attribute, setup.rulebook),
      values: takenValues(attribute),
      own: ownKind(attribute) ?? null,
      tags: attribute.limits.tags ?? null,
      pictures: [...pictureSources],
      fill: placed.get(attribute.key) ?? null,
      suggested: placed.has(attribute.key) ? null : (suggested.get(attribute.key) ?? null),
      steps: offeredFits(attribute.limits, attribute.type),
      sources: [
        ...sourcesFor(attribute, dictionary.attributes),
        ...mergedSources(placed.get(attribute.key), dictionary),
      ],
    }));
}

/** Attributes that the fill names and that were made one with another since: the fill goes on reading that one. */
function mergedSources(fill: Fill | undefined, { attributes, merged }: Dictionary): { name: string; label: string }[] {
  const written = JSON.stringify(fill ?? null);
  return [...merged.keys()].flatMap((key) =>
    written.includes(JSON.stringify(key)) ? [{ name: key, label: attributes.get(key)?.label ?? key }] : [],
  );
}

const uncounted = { filled: 0, missing: 0, refused: 0, parts: [], samples: [], covers: null, slots: [] };

/** Every attribute the channel asks for, its fill, and what it gives; large shelves are counted beside the request. */
export async function listFills(
  services: Services,
  placeId: number,
  within?: string,
): Promise<{ items: ChannelAttributeAnswer[]; categories: { path: string; names: string[]; goods: number }[] }> {
  const described = await describeFills(services, placeId);
  const name = nameOf('fills', within === undefined ? { placeId } : { placeId, within });
  const { tallies, categories } = await kept(services, name, () => apart(countFills, services, { placeId, within }));
  const { db } = services;
  const names = namesOf(await rulebookOf(db, await getPlace(db, placeId)));
  return {
    items: described.map((describeFill) => ({
      ...describeFill,
      ...(tallies[describeFill.key] ?? uncounted),
      effect: null,
      looked: null,
    })),
    categories: Object.entries(categories)
      .map(([path, goods]) => ({ path, names: names(path), goods }))
      .sort((a, b) => b.goods - a.goods),
  };
}

/** What one attribute would get from another fill, not saved. */
export async function tryFill(
  services: Services,
  placeId: number,
  { within, few, ...change }: FillChange & { within?: string | undefined; few?: boolean | undefined },
): Promise<ChannelAttributeAnswer> {
  const { attribute } = change;
  const tried = await triedChange(services, placeId, change);
  const described = (await describeFills(services, placeId, tried)).find(({ key }) => key === attribute);
  if (!described) throw notFound(`attribute “${attribute}”`);
  const { tallies, effect, looked } = await apart(countFills, services, {
    ...{ placeId, only: attribute, within, few },
    change: tried,
  });
  return { ...described, ...(tallies[attribute] ?? uncounted), effect, looked: few ? looked : null };
}

/** The goods behind a part of what a fill gives, or would. */
export async function listGoods(
  services: Services,
  { tried, ...input }: Omit<GoodsInput, 'change'> & { tried?: Omit<FillChange, 'attribute'> | undefined },
) {
  const { placeId, attribute } = input;
  const change = tried && (await triedChange(services, placeId, { ...tried, attribute }));
  return apart(goodsOfFill, services, { ...input, change });
}

async function triedChange({ db }: Services, placeId: number, change: FillChange): Promise<SetupChange> {
  mustCompare(await loadDictionary(db), change.fill);
  const place = await getPlace(db, placeId);
  await mustBeThere(db, { place, rulebook: await rulebookOf(db, place) }, change);
  return { fills: [change] };
}
