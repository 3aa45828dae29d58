/** A label and what stands beside it, one of many below each other. */
export function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div
      className="row"
      style={{ padding: '6px 0', borderBottom: '1px solid var(--shelf-palette-line)', alignItems: 'baseline', gap: 10 }}
    >
      <span style={{ width: 116, flex: 'none', color: 'var(--shelf-palette-ink-2)', fontSize: 12.5 }}>{label}</span>
      <span className="grow">{children}</span>
    </div>
  );
}
