/** The catalog: a grid over an opened view, and the drawer with the chosen product. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type SavedView, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link, useLocation } from 'react-router';
import { useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { useChangesSince } from '../api/events';
import { Empty, ProblemBox, useTell } from '../design/feedback';
import { Drawer } from '../design/Drawer';
import { SearchBox } from '../design/SearchBox';
import { count, plural } from '../design/words';
import { BulkBar } from './BulkBar';
import { useChoosing } from './choosing';
import { Product } from './Product';
import { ColumnMenu } from './ColumnMenu';
import { attributesOf, useColumns } from './columns';
import { ConditionBar } from './Conditions';
import { ExportMenu } from './Export';
import { Grid } from './Grid';
import { useOpenedView } from './opened';
import { ViewButtons, ViewForm } from './SavedViews';
import { addressOf, catalogAddress, viewOf } from './view';

export function Catalog() {
  const [address, set] = useAddress(catalogAddress);
  const conditions = address.where;
  const view = viewOf(address);
  const [form, setForm] = useState<'new' | SavedView>();
  const [edition, setEdition] = useState(0);
  const columns = useColumns();
  const opened = useOpenedView(view, { columns: attributesOf(columns.shown), mark: edition });
  const changes = useChangesSince('catalog', opened.data?.token);
  const reopen = () => setEdition((now) => now + 1);
  const counts = useQuery({
    ...ask(api.catalog.counts, { params: { token: opened.data?.token ?? '' } }),
    enabled: opened.data !== undefined,
    placeholderData: keepPreviousData,
  });
  const choosing = useChoosing(JSON.stringify(view), opened.data?.token);
  const { search: here } = useLocation();
  const { open } = address;
  return (
    <>
      <Box as="section" col grow pad={[3.5, 0, 0, 5]}>
        <Box row padRight={4} below={2.5} align="end">
          <h1>Catalog</h1>
          <Box as="span" muted padBottom={1}>
            {counts.data &&
              `${plural(counts.data.variants, 'variant')} of ${plural(counts.data.families, 'family', 'families')}`}
          </Box>
          <Box as="span" grow />
          <SearchBox
            label="Search goods"
            value={address.search}
            onSearch={(search) => set({ search }, { replace: true })}
            wide={190}
          />
          <Select
            value={view.show}
            onChange={(event) => set({ show: event.target.value })}
            inputProps={{ 'aria-label': 'Rows' }}
          >
            <MenuItem value="both">Families and variants</MenuItem>
            <MenuItem value="variants">Variants</MenuItem>
            <MenuItem value="families">Families</MenuItem>
          </Select>
          <ColumnMenu columns={columns} />
          <Button variant="outlined" component={Link} to={`/catalog/sheet${here}`}>
            Sheet
          </Button>
          <Button variant="outlined" component={Link} to="/catalog/new">
            New product
          </Button>
          <ExportMenu token={opened.data?.token} columns={columns.shown.map((column) => column.key)} />
        </Box>
        <ConditionBar
          conditions={conditions}
          fixed={
            view.toComplete
              ? { label: 'to complete: a channel misses a value', onDelete: () => set({ toComplete: undefined }) }
              : undefined
          }
          onChange={(where) => set({ where })}
        >
          <ViewButtons
            now={view}
            onShow={(saved) => {
              setForm(undefined);
              set(addressOf(saved.view));
              if (saved.columns) columns.keep(saved.columns);
            }}
            onForm={setForm}
          />
        </ConditionBar>
        {form && (
          <ViewForm
            key={form === 'new' ? 'new' : form.id}
            of={form}
            now={{ view, columns: columns.kept }}
            onDone={() => setForm(undefined)}
          />
        )}
        {choosing.chosen && opened.data && (
          <BulkBar choosing={choosing} chosen={choosing.chosen} rows={opened.data.rows} onDone={reopen} />
        )}
        {opened.data?.isLike && (
          <Box small muted below={2} role="status">
            Nothing has “{view.search}” in its name or numbers; this is what is like it.
          </Box>
        )}
        {opened.error && <ProblemBox error={opened.error} />}
        {opened.data &&
          (opened.data.rows === 0 ? (
            <Empty title="Nothing is shown">
              {counts.data && counts.data.leftOut.length > 0
                ? 'The conditions or the search leave everything out; the line below says what.'
                : 'There are no goods yet. Drop a file at Intake, or make the first by hand.'}
            </Empty>
          ) : (
            <Grid
              // Another view begins at its top; the same one opened again, because something changed, stays where it is.
              key={JSON.stringify(view)}
              opened={opened.data}
              columns={columns.shown}
              onSize={columns.size}
              sort={view.sort}
              onSort={(sort) => set({ sort })}
              open={open}
              onOpen={(id) => set({ open: id })}
              choosing={choosing}
              onExpired={reopen}
            />
          ))}
        <LeftOut
          counts={counts.data}
          token={opened.data?.token}
          changes={changes}
          onRefresh={reopen}
          everything={view.everything}
          onAll={(all) => set({ all })}
          onClear={() => set({ where: [], search: '', toComplete: false })}
        />
      </Box>
      {open !== undefined && (
        <Drawer label="Product" onClose={() => set({ open: undefined, tab: undefined })}>
          <Product
            id={open}
            onOpen={(id) => set({ open: id })}
            onGone={() => set({ open: undefined, tab: undefined })}
            tab={address.tab}
            onTab={(tab) => set({ tab })}
            focus={address.attribute}
          />
        </Drawer>
      )}
    </>
  );
}

/** Why goods are no everyday goods. */
const idleReasons = ['paused', 'withdrawn', 'set aside'];

/** Goods that are out of the everyday although there are pieces of them: brought back with one click. */
function BringBack({
  token,
  idle,
  onDone,
}: {
  token: string | undefined;
  idle: readonly { withStock: number }[];
  onDone: () => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const stocked = idle.reduce((sum, row) => sum + row.withStock, 0);
  const back = useMutation({
    mutationFn: async () => {
      const { rows } = await call(api.bulk.leftOutWithStock, { params: { token: token ?? '' } });
      return call(api.bulk.bringBack, { body: { chosen: { rows } } });
    },
    onSuccess: ({ variants }) => {
      tell(`${plural(variants, 'variant')} brought back`);
      onDone();
      void queries.invalidateQueries();
    },
    onError: (problem) => tell(String(problem), 'error'),
  });
  if (stocked === 0 || token === undefined) return null;
  return (
    <Button color="secondary" sx={{ p: 0 }} disabled={back.isPending} onClick={() => back.mutate()}>
      Bring back the {count(stocked)} with stock
    </Button>
  );
}

/** What the view hides is always said, and one click shows it. */
function LeftOut({
  counts,
  token,
  everything,
  changes,
  onRefresh,
  onAll,
  onClear,
}: {
  counts: { leftOut: { reason: string; variants: number; withStock: number }[] } | undefined;
  token: string | undefined;
  everything: boolean;
  /** Since the rows were opened. */
  changes: number;
  onRefresh: () => void;
  onAll: (all: boolean) => void;
  onClear: () => void;
}) {
  if (!counts) return null;
  const total = counts.leftOut.reduce((sum, row) => sum + row.variants, 0);
  const stocked = counts.leftOut.reduce((sum, row) => sum + row.withStock, 0);
  const idle = counts.leftOut.filter((row) => idleReasons.includes(row.reason));
  const byState = idle.length > 0;
  const bySearch = counts.leftOut.length > idle.length;
  return (
    <Box small row surface={total > 0 ? 'brass' : undefined} pad={[2, 3]} gap={3} rounded minHigh={34}>
      {total > 0 ? (
        <span>
          <b>{plural(total, 'variant')} not shown:</b>{' '}
          {counts.leftOut.map((row) => `${row.variants} ${row.reason}`).join(', ')}.
          {stocked > 0 && ` ${stocked} of them have stock.`}
        </span>
      ) : (
        <Box as="span" muted>
          Everything is shown.
        </Box>
      )}
      {byState && (
        <Button color="secondary" sx={{ p: 0 }} onClick={() => onAll(true)}>
          Show what is {idle.map((row) => row.reason).join(', ')}
        </Button>
      )}
      <BringBack token={token} idle={idle} onDone={onRefresh} />
      {bySearch && (
        <Button color="secondary" sx={{ p: 0 }} onClick={onClear}>
          Clear search and conditions
        </Button>
      )}
      {everything && (
        <Button color="secondary" sx={{ p: 0 }} onClick={() => onAll(false)}>
          Hide what is paused, withdrawn or set aside
        </Button>
      )}
      {changes > 0 && (
        <Box as="span" toEnd role="status">
          {plural(changes, 'change')} since ·{' '}
          <Button color="secondary" sx={{ p: 0, minWidth: 0 }} onClick={onRefresh}>
            refresh
          </Button>
        </Box>
      )}
    </Box>
  );
}
