/** Timing of one thing against another in the same run. */
export interface BenchLine {
  name: string;
  ratio: number;
  reach: string;
  holds: boolean;
  figures: Record<string, number>;
}

/** Median milliseconds of some runs of each, taken turn about so that both meet the same machine. */
export async function compare(
  runs: number,
  subject: () => unknown,
  baseline: () => unknown,
): Promise<{ subject: number; baseline: number; ratio: number }> {
  const times: { subject: number[]; baseline: number[] } = { subject: [], baseline: [] };
  await subject();
  await baseline();
  for (let i = 0; i < runs; i++) {
    times.baseline.push(await time(baseline));
    times.subject.push(await time(subject));
  }
  const [a, b] = [median(times.subject), median(times.baseline)];
  return { subject: Math.round(a), baseline: Math.round(b), ratio: Number((a / b).toFixed(2)) };
}

/** Milliseconds that work takes. */
export async function time(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

export function median(list: number[]): number {
  const sorted = [...list].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}
