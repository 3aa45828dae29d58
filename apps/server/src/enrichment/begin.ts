/** Jobs that go through the texts of goods chosen in the grid. */
import type { Chosen } from '@velvet-shelf/contract';
import { chosenGoods } from '../catalog/chosen.js';
import type { Services, User } from '../http/route.js';
import { runAside } from '../jobs/aside.js';
import type { JobKind } from '../jobs/define.js';
import { createJob } from '../jobs/run.js';
import type { UnitsInput } from './jobs.js';

/** Answers the job, and how many families and singles it goes through; `doing` is what its row says it does with them. */
export async function beginReading(
  { db, notify }: Services,
  user: User,
  chosen: Chosen,
  kind: JobKind<UnitsInput>,
  doing: string,
): Promise<{ job: number; goods: number }> {
  const { units } = await chosenGoods(db, chosen);
  const label = `${doing} ${units.length} ${units.length === 1 ? 'product' : 'products'}`;
  const job = await createJob(db, kind, { label, input: { units }, actor: user.id });
  // What goes wrong stands in the job.
  runAside(job).catch(() => undefined);
  notify('job');
  return { job, goods: units.length };
}
