/** How pictures come in. */
import { type PictureAnswer, api } from '@velvet-shelf/contract';
import { call, sendFile } from '../api/call';
import type { WaysIn } from '../files/Arriving';

export const pictureWays: WaysIn<PictureAnswer> = {
  what: 'picture',
  accept: 'image/jpeg,image/png,image/webp,image/gif,image/tiff',
  send: (file) => sendFile(api.pictures.upload, file),
  fetch: (address) => call(api.pictures.fetch, { body: { address } }),
};
