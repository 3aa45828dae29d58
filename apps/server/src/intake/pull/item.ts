/** One item of a channel’s own catalogue, brought in as a batch of one row. */
import { adapterOf } from '../../channels/adapters/index.js';
import { getPlace, outsideOf } from '../../channels/places.js';
import { loadCompany } from '../../company/settings.js';
import { conflict, unprocessable } from '../../http/problem.js';
import type { Services } from '../../http/route.js';
import { ownSupplier } from '../../company/suppliers.js';
import { takeInRows } from '../read/written.js';

/** One item of a channel's own catalogue as a batch of one row, with the cells a person must add left empty. */
export async function fetchItem(services: Services, placeId: number, identifier: string): Promise<number> {
  const { db, config } = services;
  const place = await getPlace(db, placeId);
  const wanted = identifier.trim();
  const { item } = adapterOf(place.adapter);
  if (!item) throw conflict(`${place.channelName} has no catalogue to look things up in`);
  const goods = await item(outsideOf(config, place), wanted);
  if (!goods)
    throw unprocessable(
      `${place.channelName} knows no item “${wanted}”. Check the identifier, or drop a file instead.`,
    );
  const own = await ownSupplier(db);
  const { currency } = await loadCompany(db);
  return takeInRows(services, {
    name: `${place.channel}-${wanted.replace(/[^\w-]+/g, '-')}.json`,
    rows: [
      {
        SKU: '',
        ...goods,
        'Our category': '',
        [`Cost ${currency}`]: '',
        [`Price ${currency}`]: '',
        Stock: '',
      },
    ],
    supplier: own,
    kind: 'pull',
  });
}
