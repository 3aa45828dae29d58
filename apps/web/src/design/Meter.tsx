/** How much of something is done, as a bar with its figure in words. */
export function Meter({ percent, label, wide = 58 }: { percent: number; label: string; wide?: number }) {
  return (
    <span
      className="bar meter"
      role="meter"
      aria-label={label}
      aria-valuenow={Math.round(percent)}
      aria-valuemin={0}
      aria-valuemax={100}
      title={`${Math.round(percent)} %`}
      style={{ width: wide }}
    >
      <i style={{ width: `${percent}%` }} />
    </span>
  );
}
