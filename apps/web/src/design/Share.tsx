/** A part of a bar: as wide as its share, in the colour of the state it counts. */
const colours = {
  ready: 'var(--shelf-palette-ready)',
  blocked: 'var(--shelf-palette-blocked)',
  live: 'var(--shelf-palette-live)',
  draft: 'var(--shelf-palette-velvet-200)',
  hidden: 'var(--shelf-palette-velvet-500)',
  queued: 'var(--shelf-palette-brass)',
  sent: 'var(--shelf-palette-brass-bright)',
  refused: 'var(--shelf-palette-held)',
  withdrawn: 'var(--shelf-palette-ink-3)',
  none: 'var(--shelf-palette-line-strong)',
};
export type ShareState = keyof typeof colours;

export function Share({ percent, state, title }: { percent: number; state: ShareState; title: string }) {
  return <div title={title} style={{ width: `${percent}%`, background: colours[state], borderRadius: 2 }} />;
}
