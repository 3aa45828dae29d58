/** What every row would do (or did): filtered, searched, picked out, corrected; with a reason for each refusal. */
import { Box } from '../design/Box';
import { ShowMore } from '../design/ShowMore';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Chip from '@mui/material/Chip';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { type BatchAnswer, type BatchRowAnswer, api, rowFilters } from '@velvet-shelf/contract';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { askPages, keyOf } from '../api/ask';
import { call } from '../api/call';
import { ProblemBox, useTell } from '../design/feedback';
import { type Column, DataTable } from '../design/DataTable';
import { State } from '../design/State';
import { SearchBox } from '../design/SearchBox';
import { count, plural } from '../design/words';
import { EffectBar } from './Effect';
import { FixRow } from './FixRow';
import { signOf } from './notes';
import { UntakenWords } from './UntakenWords';
import { batchWork } from './work';

const outcomes = ['created', 'joins', 'changed', 'unchanged', 'refused'] as const;
type Outcome = (typeof rowFilters)[number];
const rowsAddress = z.object({
  tab: z.string().optional(),
  outcome: z.enum(rowFilters).optional(),
  search: inAddress.search,
  /** Whoever comes from a value is led to the row it stands on. */
  row: inAddress.number,
});

export function DryRun({ batch, onChange }: { batch: BatchAnswer; onChange: (batch: BatchAnswer) => void }) {
  const [{ outcome, search: asked, row: at }, set] = useAddress(rowsAddress);
  const queries = useQueryClient();
  const tell = useTell();
  const [fixing, setFixing] = useState<BatchRowAnswer>();
  const rows = useInfiniteQuery(
    askPages(
      api.intake.rows,
      { params: { id: batch.id }, query: { outcome, search: asked, limit: 100 } },
      { first: at === undefined ? undefined : String(at - 1), mark: batch.state },
    ),
  );
  const after = (data: BatchAnswer) => {
    onChange(data);
    void queries.invalidateQueries({ queryKey: keyOf(api.intake.rows) });
  };
  const pick = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: (body: { leftOut: boolean; rows?: number[] }) =>
      call(api.intake.leaveOut, {
        params: { id: batch.id },
        body: body.rows ? body : { ...body, outcome: outcome === 'refused' ? undefined : outcome, search: asked },
      }),
    onSuccess: ({ rows: n, batch: data }, { leftOut }) => {
      tell(`${plural(n, 'row')} ${leftOut ? 'picked out' : 'taken in again'}`);
      after(data);
    },
  });
  const tried = batch.state === 'tried';
  // A box that was ticked shows it at once.
  const items = useMemo(() => {
    const picked = pick.isPending ? pick.variables : undefined;
    return (rows.data?.pages.flatMap((page) => page.items) ?? []).map((row) =>
      picked?.rows?.includes(row.row) ? { ...row, leftOut: picked.leftOut } : row,
    );
  }, [rows.data, pick.isPending, pick.variables]);
  const isAlike = outcome !== undefined || asked !== '';
  const chip = (label: string, key: Outcome | undefined) => (
    <Chip
      key={label}
      label={label}
      variant={outcome === key ? 'filled' : 'outlined'}
      onClick={() => set({ tab: 'rows', outcome: key })}
    />
  );
  return (
    <Box col grow pad={[2, 6, 0]}>
      <EffectBar batch={batch} />
      {(batch.counts?.inHouse ?? 0) > 0 && (
        <Box as="p" small muted around={[0, 0, 2]}>
          {plural(batch.counts?.inHouse ?? 0, 'GTIN is a number', 'GTINs are numbers')} for use inside a company: others
          may give them to other goods, so they join only where brand, MPN or words of the title agree too – or where a
          supplier uses our numbers, which you say under <Link to="/intake">Intake</Link>.
        </Box>
      )}
      <UntakenWords batch={batch} onChange={after} />
      <Box wrap row below={2}>
        {chip('All rows', undefined)}
        {outcomes.map(
          (outcome) =>
            (outcome !== 'joins' || (batch.counts?.joins ?? 0) > 0) &&
            chip(`${outcome} ${count(batch.counts?.[outcome] ?? 0)}`, outcome),
        )}
        {(batch.counts?.asked ?? 0) > 0 && chip(`to be asked about ${count(batch.counts?.asked ?? 0)}`, 'asked')}
        {chip('with notes', 'noted')}
        {at !== undefined && <Chip label={`from row ${count(at)} on`} onDelete={() => set({ row: undefined })} />}
        {batch.leftOut > 0 && chip(`picked out ${count(batch.leftOut)}`, 'left out')}
        <SearchBox
          label="Find in rows"
          value={asked}
          onSearch={(search) => set({ tab: 'rows', search }, { replace: true })}
          wide={150}
        />
        {tried && isAlike && outcome !== 'refused' && (
          <Button
            color="secondary"
            disabled={pick.isPending}
            onClick={() => pick.mutate({ leftOut: outcome !== 'left out' })}
          >
            {outcome === 'left out' ? 'Take all of these in again' : 'Pick all of these out'}
          </Button>
        )}
        {(batch.counts?.refused ?? 0) > 0 && (
          <Button href={`/api/batches/${batch.id}/refused.csv`} sx={{ ml: 'auto' }} color="secondary">
            Download refused rows
          </Button>
        )}
      </Box>
      {(rows.error ?? pick.error) && <ProblemBox error={rows.error ?? pick.error} />}
      <Box grow scroll surface="card">
        <DataTable
          label="Rows of the file"
          rows={items}
          keyOf={({ row }) => row}
          rowLook={(row) => ({
            faded: row.leftOut,
            ...(row.row === at ? { surface: 'brass', 'aria-current': true } : {}),
          })}
          columns={[
            ...(tried ? [applyColumn((row, leftOut) => pick.mutate({ leftOut, rows: [row.row] }))] : []),
            { head: 'Row', cell: ({ place, row }) => place ?? row, look: { num: true, oneLine: true } },
            {
              head: 'Outcome',
              cell: ({ outcome: is, leftOut }) => <State is={is}>{leftOut ? 'picked out' : is}</State>,
            },
            { head: 'Article number', cell: ({ key }) => key },
            {
              head: 'What',
              look: { maxWide: 300 },
              cell: ({ title }) => (
                <Box cut title={title ?? ''}>
                  {title}
                </Box>
              ),
            },
            {
              head: batch.state === 'applied' ? 'What it did' : 'What it does',
              id: 'does',
              look: { small: true, maxWide: 520 },
              cell: (row) => (
                <WhatItDoes
                  row={row}
                  toAdd={stillToAdd(batch, row)}
                  applied={batch.state === 'applied'}
                  onFix={tried && batch.kind !== 'round-trip' ? () => setFixing(row) : undefined}
                />
              ),
            },
          ]}
        />
        <ShowMore of={rows} words="Show more rows" />
        {rows.data?.pages[0]?.items.length === 0 && (
          <Box as="p" muted pad={4}>
            No row is like this.
          </Box>
        )}
      </Box>
      {fixing && (
        <FixRow
          batch={batch}
          row={fixing}
          onClose={() => setFixing(undefined)}
          onDone={(data) => {
            setFixing(undefined);
            after(data);
          }}
        />
      )}
    </Box>
  );
}

/** Of a single item that was fetched: the cells its source cannot fill and a person has to. */
function stillToAdd({ kind, counts, columns }: BatchAnswer, { cells, outcome }: BatchRowAnswer): string[] {
  const all = outcomes.reduce((sum, row) => sum + (counts?.[row] ?? 0), 0);
  return kind === 'pull' && all === 1 && outcome === 'refused' ? columns.filter((_, i) => !cells[i]?.trim()) : [];
}

/** Whether a row is applied; one that is refused cannot be. */
const applyColumn = (onPick: (row: BatchRowAnswer, leftOut: boolean) => void): Column<BatchRowAnswer> => ({
  head: 'Apply',
  headLook: { wide: 34 },
  cell: (row) => (
    <Checkbox
      size="small"
      sx={{ p: 0 }}
      checked={!row.leftOut && row.outcome !== 'refused'}
      disabled={row.outcome === 'refused'}
      onChange={(_, checked) => onPick(row, !checked)}
      slotProps={{ input: { 'aria-label': `Apply row ${row.row}` } }}
    />
  ),
});

/** Why a row is refused, what it is about and changes, and what was noticed in it. */
function WhatItDoes({
  row,
  toAdd,
  applied,
  onFix,
}: {
  row: BatchRowAnswer;
  toAdd: string[];
  applied: boolean;
  onFix: (() => void) | undefined;
}) {
  return (
    <>
      {row.reasons.map((reason) => (
        <Box tone="blocked" key={reason}>
          {reason}
        </Box>
      ))}
      {toAdd.length > 0 && (
        <div>
          Still to add: <b>{toAdd.join(', ')}</b>
        </div>
      )}
      <WhatOfGoods row={row} applied={applied} />
      {row.notes.map((note) => (
        <Box tone={note.lost ? 'blocked' : 'advice'} key={note.column + note.note}>
          {signOf(note)} {note.column}: {note.note}
        </Box>
      ))}
      {onFix && (row.outcome === 'refused' || row.notes.some((note) => note.lost)) && (
        <Button size="small" color="secondary" sx={{ p: 0, minWidth: 0, fontSize: 12 }} onClick={onFix}>
          Correct this row
        </Button>
      )}
    </>
  );
}

/** Which goods a row is about, and what it changes of them. */
function WhatOfGoods({ row, applied }: { row: BatchRowAnswer; applied: boolean }) {
  const { outcome, joins, asks, changes, stays } = row;
  const told = outcome === 'changed' || (outcome === 'joins' && !applied);
  return (
    <>
      {outcome === 'joins' && joins && (
        <div>
          {applied ? 'Joined' : 'Joins'} <GoodsLink goods={joins} /> by {joins.by}
          {!applied && changes.length === 0 && ', and changes nothing of it'}
        </div>
      )}
      {outcome === 'created' &&
        (joins ? (
          <div>
            Made <GoodsLink goods={joins} />
          </div>
        ) : (
          <div>A new product, {plural(changes.length, 'field')}</div>
        ))}
      {asks && (
        <div>
          Shares its {asks.by} with <GoodsLink goods={asks} /> and does not join it by itself: {asks.against.join('; ')}
          . You will be asked under Matching.
        </div>
      )}
      {told &&
        changes.slice(0, mostTold).map((change) => (
          <Box cut key={change.field}>
            {change.field}:{' '}
            <Box as="s" muted>
              {change.before ?? 'empty'}
            </Box>{' '}
            → <b>{change.after ?? 'empty'}</b>
          </Box>
        ))}
      {told && changes.length > mostTold && <Box muted>and {plural(changes.length - mostTold, 'field')} more</Box>}
      {stays.slice(0, mostTold).map((stay) => (
        <Box muted cut key={stay.field}>
          {stay.field} stays <b>{stay.keeps ?? 'empty'}</b>, not “{stay.says}”: {stay.by}, {stay.why}
        </Box>
      ))}
      {stays.length > mostTold && <Box muted>and {plural(stays.length - mostTold, 'field')} more stay</Box>}
    </>
  );
}

const mostTold = 6;

const GoodsLink = ({ goods }: { goods: { productId: number; sku: string | null; title: string | null } }) => (
  <Link to={`/catalog?open=${goods.productId}`}>{goods.sku ?? goods.title}</Link>
);
