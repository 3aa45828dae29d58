/** A rulebook with the settings its checks are given: read strictly, every fault with the place it is at. */
import { type ReadRulebook, type Rulebook, readRulebook } from '../rulebooks/index.js';
import type { Check } from './model.js';

/** Faults are sentences, each with its path in the document. */
export const loaderOf =
  (checks: readonly Check[]) =>
  (json: unknown): ReadRulebook => {
    const read = readRulebook(json);
    if (!read.ok) return read;
    const faults = settingFaults(read.rulebook, checks);
    if (faults.length === 0) faults.push(...nameFaults(read.rulebook, checks));
    return faults.length > 0 ? { ok: false, faults } : read;
  };

const settingFaults = ({ rules }: Rulebook, checks: readonly Check[]): string[] =>
  rules.flatMap(({ check: id, ...given }, i) => {
    const settings = checks.find(({ meta }) => meta.id === id)?.settings;
    if (!settings) return [`rules.${i}.check: there is no check “${id}” that takes settings`];
    const read = settings.safeParse(given);
    return read.success
      ? []
      : read.error.issues.map((issue) => `${['rules', i, ...issue.path].join('.')}: ${issue.message}`);
  });

function nameFaults(rulebook: Rulebook, checks: readonly Check[]): string[] {
  const keys = new Set(rulebook.attributes.map(({ key }) => key));
  return checks.flatMap(({ meta, names }) =>
    [...new Set(names?.(rulebook))]
      .filter((key) => !keys.has(key))
      .map((key) => `rules.${meta.id}: there is no attribute “${key}”`),
  );
}
