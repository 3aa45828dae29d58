/** A part of a bar: as wide as its share, in the colour of the state it counts. */
const colours = {
  ready: 'var(--ready)',
  blocked: 'var(--blocked)',
  live: 'var(--live)',
  draft: 'var(--velvet-200)',
  hidden: 'var(--velvet-500)',
  queued: 'var(--brass)',
  sent: 'var(--brass-bright)',
  refused: 'var(--held)',
  withdrawn: 'var(--ink-3)',
  none: 'var(--line-strong)',
};
export type ShareState = keyof typeof colours;

export function Share({ percent, state, title }: { percent: number; state: ShareState; title: string }) {
  return <div title={title} style={{ width: `${percent}%`, background: colours[state], borderRadius: 2 }} />;
}
