/** The first rows of a file as they will become, with the cells that give nothing marked. */
import type { BatchAnswer } from '@velvet-shelf/contract';

export function FirstRows({ batch }: { batch: BatchAnswer }) {
  const used = batch.map.flatMap((one, i) => (one.target.to === 'ignore' ? [] : [{ ...one, i }]));
  return (
    <div className="grow scroll" style={{ padding: '10px 24px 24px' }}>
      <p className="muted small" style={{ margin: '0 0 6px' }}>
        The first {batch.sample.length} rows. ✕ a cell that gives no value, ≈ one that was repaired: point at it for the
        reason.
      </p>
      <table className="plain dense" style={{ background: 'var(--card)' }}>
        <thead>
          <tr>
            <th>Row</th>
            {used.map(({ column, target, i }) => (
              <th key={i} style={{ whiteSpace: 'nowrap' }}>
                {label(target)}
                <div className="muted" style={{ fontWeight: 400 }}>
                  {column}
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
                <td colSpan={used.length} style={{ color: 'var(--blocked)' }}>
                  ✕ {row.refused.join('; ')}
                </td>
              ) : (
                used.map(({ column, i }) => {
                  const becomes = row.becomes[i];
                  const raw = row.cells[batch.columns.indexOf(column)] ?? '';
                  return (
                    <td
                      key={i}
                      className="cut"
                      title={becomes?.note ?? raw}
                      style={{
                        maxWidth: 190,
                        ...(becomes?.lost ? { background: 'var(--blocked-tint)', color: 'var(--blocked)' } : {}),
                      }}
                    >
                      {becomes?.lost ? `✕ ${raw}` : becomes?.text}
                      {becomes?.note && !becomes.lost && <span style={{ color: 'var(--advice)' }}> ≈</span>}
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

function label(target: BatchAnswer['map'][number]['target']): string {
  switch (target.to) {
    case 'attribute':
      return `${target.attribute}${target.language ? `, ${target.language}` : ''}`;
    case 'price':
      return `${target.kind === 'sale' ? 'sale price' : 'price'} ${target.currency}`;
    case 'key':
      return 'article number';
    case 'boughtFrom':
      return 'bought from';
    case 'theirNumber':
      return 'their number';
    case 'saleFrom':
      return 'sale starts';
    case 'saleTo':
      return 'sale ends';
    default:
      return target.to;
  }
}
