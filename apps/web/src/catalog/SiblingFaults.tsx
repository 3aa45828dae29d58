/** What is wrong between the variants of a family, each with the variants it is about. */
import type { Axis, SiblingFault } from '@velvet-shelf/core/catalog';
import { Box } from '../design/Box';

export function SiblingFaults({
  axes,
  faults,
  nameOf,
}: {
  axes: readonly Axis[];
  faults: readonly SiblingFault[];
  nameOf: (id: number) => string;
}) {
  if (faults.length === 0) return null;
  return (
    <Box as="section" above={2} aria-label="Faults between variants">
      {faults.map((fault, i) => (
        <Box as="p" small tone="advice" around={[0, 0, 1]} key={i}>
          <b>{sayFault(fault, axes)}</b> {fault.variants.map((id) => nameOf(Number(id))).join(', ')}
        </Box>
      ))}
    </Box>
  );
}

function sayFault({ kind, axis = '', values = [] }: SiblingFault, axes: readonly Axis[]): string {
  switch (kind) {
    case 'duplicate-combination':
      return `The same ${axes.map(({ key }) => key).join(' and ')} (${values.join(' × ')}):`;
    case 'missing-value':
      return `No ${axis}:`;
    case 'differing-axes':
      return `Varies on ${axis}, its siblings do not:`;
    case 'same-value-spelt-differently':
      return `One ${axis} written as ${values.join(' and ')}:`;
  }
}
