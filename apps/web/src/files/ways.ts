/** How files that are no pictures come in, and where anybody may fetch one by its name. */
import { type StoredFileAnswer, api } from '@velvet-shelf/contract';
import { call, sendFile } from '../api/call';
import type { WaysIn } from './Arriving';

export const fileWays: WaysIn<StoredFileAnswer> = {
  what: 'file',
  send: (file) => sendFile(api.files.upload, file),
  fetch: (address) => call(api.files.fetch, { body: { address } }),
};

export const fileAddress = (name: string): string =>
  /^https?:/.test(name) ? name : `/files/${encodeURIComponent(name)}`;
