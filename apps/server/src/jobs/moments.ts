/**
 * Moments of long work at which a test may end the process or make a row fail, to see that nothing is lost by it. Nobody
 * but a test sets these: `VELVET_TEST_KILL=apply-chunk:2` ends this process at the second such moment, `VELVET_TEST_HURT`
 * makes the row of that number fail while it is applied.
 */
const [wanted, at = '1'] = (process.env.VELVET_TEST_KILL ?? '').split(':');
const hurtRow = Number(process.env.VELVET_TEST_HURT);
let seen = 0;

export async function moment(name: string): Promise<void> {
  if (name !== wanted || ++seen !== Number(at)) return;
  process.kill(process.pid, 'SIGKILL');
  await new Promise(() => undefined);
}

export function hurt(after: number, last: number): void {
  if (hurtRow > after && hurtRow <= last) throw new Error(`row ${hurtRow} was made to fail by a test`);
}
