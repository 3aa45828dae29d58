/** A whole as one bar of its parts, each as wide as its share; a part is chosen to see what is in it. */
import './part-bar.css';

export interface BarPart {
  key: string;
  words: string;
  of: number;
  look: 'first' | 'second' | 'third' | 'pinned' | 'refused' | 'empty' | 'unasked';
}

export function PartBar({
  label,
  parts,
  chosen,
  onChoose,
}: {
  label: string;
  parts: readonly BarPart[];
  chosen: string | undefined;
  onChoose: (key: string | undefined) => void;
}) {
  return (
    <div className="part-bar" role="group" aria-label={label}>
      {parts.map(({ key, words, of, look }) => (
        <button
          key={key}
          type="button"
          className={look}
          title={words}
          aria-pressed={key === chosen}
          style={{ flex: `${of} 1 0` }}
          onClick={() => onChoose(key === chosen ? undefined : key)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}

/** The same of two parts and the rest, small: what is there, and what is wrong. */
export function PartMeter({ label, taken, wrong, of }: { label: string; taken: number; wrong: number; of: number }) {
  const percent = (n: number) => (of === 0 ? 0 : (100 * n) / of);
  return (
    <span
      className="part-meter"
      role="meter"
      aria-label={label}
      aria-valuenow={taken}
      aria-valuemin={0}
      aria-valuemax={Math.max(of, 1)}
    >
      <i className="taken" style={{ width: `${percent(taken)}%` }} />
      <i className="wrong" style={{ width: `${percent(wrong)}%` }} />
    </span>
  );
}
