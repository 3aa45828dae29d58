/** What intake has done in a thread while a request waits: looking at a file and its columns takes longer than others may wait. */
import type { BatchAnswer } from '@velvet-shelf/contract';
import type { Scope } from '@velvet-shelf/core/intake';
import type { Services } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import type { ReceivedFile } from './receive.js';
import { showBatch } from './show.js';
import { type Correction, correctBatch, readBatch } from './take-in.js';

interface ReadInput {
  file: ReceivedFile;
  how?: { kind?: 'file' | 'pull'; scope?: Scope } | undefined;
}
interface CorrectInput {
  id: number;
  change: Correction;
}

export const readCall = (services: Services, { file, how }: ReadInput) => readBatch(services, file, how);
export const correctCall = (services: Services, { id, change }: CorrectInput) => correctBatch(services, id, change);
export const showCall = (services: Services, id: number) => showBatch(services, id);

export const readApart = (services: Services, file: ReceivedFile, how?: ReadInput['how']): Promise<number> =>
  apart('read-batch', { file, how }, () => readBatch(services, file, how));

export const correctApart = (services: Services, id: number, change: Correction): Promise<void> =>
  apart('correct-batch', { id, change }, () => correctBatch(services, id, change));

export const showApart = (services: Services, id: number): Promise<BatchAnswer> =>
  apart('show-batch', id, () => showBatch(services, id));
