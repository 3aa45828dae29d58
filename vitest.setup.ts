/**
 * Property tests try the same cases every time, so that what is green stays green. New cases are sought on purpose:
 * VELVET_SEED=1234 tries others, VELVET_RUNS=5000 tries more, and what they find is mended with a test of its own.
 */
import fc from 'fast-check';

fc.configureGlobal({
  seed: Number(process.env.VELVET_SEED ?? 20_261),
  ...(process.env.VELVET_RUNS ? { numRuns: Number(process.env.VELVET_RUNS) } : {}),
});
