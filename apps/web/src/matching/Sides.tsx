/** Every source's claim side by side: a column a record, the winner marked where the goods are one product. */
import { Box } from '../design/Box';
import type { ClaimRow, Comparison, MatchSide } from '@velvet-shelf/contract';
import { type Column, DataTable } from '../design/DataTable';
import { Thumb } from '../design/Thumb';

export function Sides({ data, onlyShared }: { data: Comparison; onlyShared: boolean }) {
  const isOne = data.products.length === 1;
  const rows = data.rows.filter((row) => !onlyShared || Object.keys(row.claims).length > 1 || row.edit);
  return (
    <DataTable
      label="Claims"
      className="sides"
      rows={rows}
      keyOf={({ attribute, language }) => `${attribute}@${language}`}
      rowLook={({ differs }) => ({ className: differs ? 'differs' : '' })}
      columns={[
        {
          head: '',
          id: 'attribute',
          isHead: true,
          look: () => ({ className: 'of' }),
          headLook: { className: 'of' },
          cell: ({ label, language }) => (
            <>
              {label}
              {language && (
                <Box as="span" small muted>
                  {' '}
                  {language}
                </Box>
              )}
            </>
          ),
        },
        ...data.products.flatMap((product) => product.sources.map((source) => claimColumn(product, source, isOne))),
        ...(isOne ? [ownColumn] : []),
      ]}
    />
  );
}

/** What one source says. */
function claimColumn(product: Comparison['products'][number], source: MatchSide, isOne: boolean): Column<ClaimRow> {
  const wins = (row: ClaimRow) => isOne && row.winnerRecord === source.recordId;
  return {
    id: `record ${source.recordId}`,
    head: (
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
    ),
    look: (row) => ({
      className: wins(row) ? 'wins' : row.differs ? 'other' : '',
      title: row.claims[String(source.recordId)] ?? '',
    }),
    cell: (row) => {
      const text = row.claims[String(source.recordId)];
      if (text === undefined)
        return (
          <Box as="span" muted>
            –
          </Box>
        );
      return text.length > 160 ? `${text.slice(0, 160)}…` : text;
    },
  };
}

/** What a person said, and else why the winner wins. */
const ownColumn: Column<ClaimRow> = {
  head: 'Yours',
  look: ({ edit, why }) => ({ className: edit ? 'wins' : 'muted', title: why ?? '' }),
  cell: ({ edit, differs, why }) => (edit ? `${edit.text ?? 'empty on purpose'} (${edit.by})` : differs ? why : ''),
};
