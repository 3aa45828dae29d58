/** A round mark before a step: done, the next one, or later. */
import type { ReactNode } from 'react';

const looks = {
  done: {
    background: 'var(--shelf-palette-ready)',
    borderColor: 'var(--shelf-palette-ready)',
    color: 'var(--shelf-palette-card)',
  },
  now: {
    background: 'var(--shelf-palette-brass-tint)',
    borderColor: 'var(--shelf-palette-brass-bright)',
    color: 'var(--shelf-palette-brass)',
  },
  later: { borderColor: 'var(--shelf-palette-line-strong)', color: 'var(--shelf-palette-ink-2)' },
};

export function StepMark({ state, children }: { state: keyof typeof looks; children: ReactNode }) {
  return (
    <span
      className="serif"
      style={{
        width: 24,
        height: 24,
        flex: 'none',
        borderRadius: '50%',
        border: '2px solid',
        display: 'grid',
        placeItems: 'center',
        fontWeight: 600,
        fontSize: 13,
        ...looks[state],
      }}
    >
      {children}
    </span>
  );
}
