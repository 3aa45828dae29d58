/** Every source's claim side by side: a column a record, the winner marked where the goods are one product. */
import { Box } from '../design/Box';
import type { ClaimRow, Comparison, MatchSide } from '@velvet-shelf/contract';
import { Thumb } from '../design/Thumb';

export function Sides({ data, onlyShared }: { data: Comparison; onlyShared: boolean }) {
  const sides = data.products.flatMap((product) => product.sources.map((source) => ({ product, source })));
  const isOne = data.products.length === 1;
  const rows = data.rows.filter((row) => !onlyShared || Object.keys(row.claims).length > 1 || row.edit);
  return (
    <table className="sides">
      <thead>
        <tr>
          <th className="of" />
          {sides.map(({ product, source }) => (
            <th key={source.recordId}>
              <Box as="span" row gap={2}>
                {!isOne && <Thumb name={product.picture} />}
                <span>
                  {source.supplier}
                  <Box small muted plainWeight>
                    {source.key}
                    {source.dropped && ' · no longer listed'}
                  </Box>
                </span>
              </Box>
            </th>
          ))}
          {isOne && <th>Yours</th>}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={`${row.attribute}@${row.language}`} className={row.differs ? 'differs' : ''}>
            <th className="of">
              {row.label}
              {row.language && (
                <Box as="span" small muted>
                  {' '}
                  {row.language}
                </Box>
              )}
            </th>
            {sides.map(({ source }) => (
              <Cell key={source.recordId} row={row} source={source} isOne={isOne} />
            ))}
            {isOne && (
              <td className={row.edit ? 'wins' : 'muted'} title={row.why ?? ''}>
                {row.edit ? `${row.edit.text ?? 'empty on purpose'} (${row.edit.by})` : row.differs ? row.why : ''}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Cell({ row, source, isOne }: { row: ClaimRow; source: MatchSide; isOne: boolean }) {
  const text = row.claims[String(source.recordId)];
  const wins = isOne && row.winnerRecord === source.recordId;
  return (
    <td className={wins ? 'wins' : row.differs ? 'other' : ''} title={text ?? ''}>
      {text === undefined ? (
        <Box as="span" muted>
          –
        </Box>
      ) : text.length > 160 ? (
        `${text.slice(0, 160)}…`
      ) : (
        text
      )}
    </td>
  );
}
