/** Runs one benchmark at one size; the command gives both and the database. */
import { benchAnswers } from './answers.js';
import { benchChecks } from './checks.js';
import { benchEdits } from './edits.js';
import { benchFeed } from './feed.js';
import { benchFitting } from './fitting.js';
import { benchGrid } from './grid.js';
import { benchIntake } from './intake.js';
import { benchListings } from './listings.js';
import { benchMatching } from './matching.js';
import type { BenchLine } from './timing.js';

const benches: Record<string, (count: number) => Promise<BenchLine[]> | BenchLine[]> = {
  answers: benchAnswers,
  checks: benchChecks,
  edits: benchEdits,
  feed: benchFeed,
  fitting: benchFitting,
  grid: benchGrid,
  intake: benchIntake,
  listings: benchListings,
  matching: benchMatching,
};

const [name = '', size] = process.argv.slice(2);
const bench = benches[name];
if (!bench) throw new Error(`There is no benchmark “${name}”`);
for (const line of await bench(Number(size))) process.stdout.write(`${JSON.stringify(line)}\n`);
