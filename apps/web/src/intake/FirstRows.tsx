/** The first rows of a file as they will become, with the cells that give nothing marked. */
import { useQuery } from '@tanstack/react-query';
import { type AttributeAnswer, type BatchAnswer, api } from '@velvet-shelf/contract';
import { call } from '../api/call';
import { signOf } from './notes';

interface Shown {
  label: string;
  /** Entries of the map that feed it. */
  entries: number[];
  columns: string[];
}

/** What the file feeds, each thing once, however many columns feed it. */
function thingsOf(batch: BatchAnswer, attributes: AttributeAnswer[]): Shown[] {
  const things = new Map<string, Shown>();
  batch.map.forEach(({ column, target }, i) => {
    if (target.to === 'ignore') return;
    const label = labelOf(target, attributes);
    const thing = things.get(label) ?? { label, entries: [], columns: [] };
    things.set(label, thing);
    thing.entries.push(i);
    thing.columns.push(column);
  });
  return [...things.values()];
}

export function FirstRows({ batch }: { batch: BatchAnswer }) {
  const attributes = useQuery({
    queryKey: ['attributes'],
    queryFn: () => call(api.catalog.attributes),
    staleTime: 300_000,
  });
  const things = thingsOf(batch, attributes.data?.items ?? []);
  return (
    <div className="grow scroll" style={{ padding: '10px 24px 24px' }}>
      <p className="muted small" style={{ margin: '0 0 6px' }}>
        The first {batch.sample.length} rows. ✕ a cell that gives no value, ≈ one that was repaired, ! one taken as it
        is written and to be looked at: point at it for the reason.
      </p>
      <table className="plain dense" style={{ background: 'var(--card)' }}>
        <thead>
          <tr>
            <th>Row</th>
            {things.map(({ label, columns }) => (
              <th
                key={label}
                style={{ whiteSpace: 'nowrap', maxWidth: 190 }}
                className="cut"
                title={columns.join(', ')}
              >
                {label}
                <div className="muted cut" style={{ fontWeight: 400 }}>
                  {columns.join(', ')}
                </div>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {batch.sample.map((row) => (
            <tr key={row.row}>
              <td className="muted" style={{ whiteSpace: 'nowrap' }}>
                {row.place ?? row.row}
              </td>
              {row.refused.length > 0 ? (
                <td colSpan={things.length} style={{ color: 'var(--blocked)' }}>
                  ✕ {row.refused.join('; ')}
                </td>
              ) : (
                things.map(({ label, entries, columns }) => {
                  const cells = entries.flatMap((i) => row.becomes[i] ?? []);
                  const text = cells.find((cell) => cell.text !== '')?.text;
                  const bad = cells.find((cell) => cell.lost);
                  const raw = columns.map((column) => row.cells[batch.columns.indexOf(column)] ?? '').filter(Boolean);
                  const noted = cells.find((cell) => cell.note);
                  const isLost = bad !== undefined && text === undefined;
                  return (
                    <td
                      key={label}
                      className="cut"
                      title={noted?.note ?? raw.join(' · ')}
                      style={{
                        maxWidth: 190,
                        ...(isLost ? { background: 'var(--blocked-tint)', color: 'var(--blocked)' } : {}),
                      }}
                    >
                      {isLost ? `✕ ${raw[0] ?? ''}` : text}
                      {noted && !isLost && <span style={{ color: 'var(--advice)' }}> {signOf(noted)}</span>}
                    </td>
                  );
                })
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function labelOf(target: BatchAnswer['map'][number]['target'], attributes: AttributeAnswer[]): string {
  switch (target.to) {
    case 'attribute':
      return `${attributes.find((attribute) => attribute.key === target.attribute)?.label ?? target.attribute}${target.language ? `, ${target.language}` : ''}`;
    case 'price':
      return `${target.kind === 'sale' ? 'Sale price' : 'Price'} ${target.currency}`;
    case 'key':
      return 'Article number';
    case 'boughtFrom':
      return 'Bought from';
    case 'theirNumber':
      return 'Their number';
    case 'saleFrom':
      return 'Sale starts';
    case 'saleTo':
      return 'Sale ends';
    default:
      return target.to.charAt(0).toUpperCase() + target.to.slice(1);
  }
}
