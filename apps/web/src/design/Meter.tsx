/** How much of something is done, as a bar with its figure in words. */
export function Meter({ percent, label = 'Complete' }: { percent: number; label?: string }) {
  return (
    <span
      className="bar meter"
      role="meter"
      aria-label={label}
      aria-valuenow={percent}
      aria-valuemin={0}
      aria-valuemax={100}
      title={`${percent} %`}
    >
      <i style={{ width: `${percent}%` }} />
    </span>
  );
}
