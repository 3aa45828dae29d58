/** What is done with a batch bears one key, so that one thing is done at a time, whichever part of the screen began it. */
export const batchWork = (id: number) => ['batch-work', id] as const;
