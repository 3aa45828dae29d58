/** A field of a channel kept as an attribute of ours. */
import { type Ask, api } from '@velvet-shelf/contract';
import { call } from '../api/call';

/** Makes it, and a fill that copies it for all goods of the channel; answers its key, or nothing where none can feed the field. */
export async function keepOwn(
  placeId: number,
  { own, label, field }: Pick<Ask, 'own' | 'label' | 'field'>,
  level: 'family' | 'variant',
): Promise<string | undefined> {
  if (!own) return undefined;
  const { ids } = await call(api.dictionary.add, {
    body: {
      attributes: [{ ...own, label, perLanguage: false, level, role: null, aliases: [], group: 'For channels' }],
    },
  });
  const { items } = await call(api.dictionary.list);
  const made = items.find(({ id }) => ids.includes(id));
  if (made)
    await call(api.channels.saveFill, {
      params: { id: placeId, attribute: field },
      body: { fill: { rule: { kind: 'copy', from: made.key }, fit: [] } },
    });
  return made?.key;
}
