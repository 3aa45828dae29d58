/** For which goods a fill is: told apart, in words, and as an address. */
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import { writeAddress } from '../api/address';

export interface FillAt {
  market: string;
  category: string;
  preset: number | null;
}
export const forAll: FillAt = { market: '', category: '', preset: null };
type Slot = ChannelAttributeAnswer['slots'][number];

/** Of the page where one fill is made: for all goods, unless it says for which. */
export const fillAddress = (placeId: number, { attribute, ...at }: Partial<FillAt> & { attribute: string }): string =>
  `/places/${placeId}/fills?${writeAddress('', { attribute, market: at.market, category: at.category, preset: at.preset ?? undefined })}`;

export const isAt = (slot: FillAt, { market, category, preset }: FillAt): boolean =>
  slot.market === market && slot.category === category && slot.preset === preset;

/** Tells the goods of one fill from those of another. */
export const keyOfAt = ({ market, category, preset }: FillAt) => JSON.stringify([market, category, preset]);

export const sayAt = ({
  market,
  category,
  names,
  presetName,
}: Omit<Slot, 'fill' | 'goods' | 'hidden' | 'preset'>): string =>
  [
    ...(presetName === null ? [] : [presetName]),
    ...(category === '' ? [] : [names.at(-1) ?? category]),
    ...(presetName === null && category === '' ? ['All goods'] : []),
    ...(market === '' ? [] : [`${market} alone`]),
  ].join(', ');
