/** The beginning of a file. */
import { open } from 'node:fs/promises';

export interface Sample {
  bytes: Buffer;
  isWhole: boolean;
}

export async function readSample(path: string, most: number): Promise<Sample> {
  const handle = await open(path);
  try {
    const { size } = await handle.stat();
    const buffer = Buffer.alloc(Math.min(most, size));
    const { bytesRead } = await handle.read(buffer, 0, buffer.length, 0);
    return { bytes: buffer.subarray(0, bytesRead), isWhole: size <= most };
  } finally {
    await handle.close();
  }
}
