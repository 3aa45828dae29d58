/** Our categories to the channel’s: what has most goods and no category comes first, with ranked suggestions. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type CategoryMapping, type CategoryRow, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { DataTable } from '../design/DataTable';
import { State } from '../design/State';
import { count, plural, sayBecoming } from '../design/words';
import { CategoryPanel } from './CategoryPanel';
import { CategoryPick } from './CategoryPick';
import type { ChannelCategory } from './ChannelTree';

const categoriesAddress = z.object({ category: inAddress.text });

/** Scores, per cent, from which suggestions can be taken together. */
const scores = ['90', '80', '70', '60', '50'];

export function Categories({ placeId }: { placeId: number }) {
  const params = { id: placeId };
  const queries = useQueryClient();
  const tell = useTell();
  const categories = useQuery(ask(api.channels.categories, { params }));
  const tree = useQuery({ ...ask(api.channels.tree, { params }), staleTime: 300_000 });
  const tried = useMutation({
    mutationFn: (maps: CategoryMapping[]) => call(api.channels.tryCategories, { params, body: { maps, market } }),
  });
  const place = useQuery(ask(api.channels.places)).data?.items.find(({ id }) => id === placeId);
  const channel = useQuery(ask(api.channels.list)).data?.items.find(({ key }) => key === place?.channel);
  const hasMarkets = (channel?.markets.length ?? 0) > 1;
  const [isHere, setHere] = useState(false);
  /** The least score of what is taken together. */
  const [from, setFrom] = useState('sure');
  const market = isHere && hasMarkets ? (place?.market ?? '') : '';
  const map = useMutation({
    mutationFn: (maps: CategoryMapping[]) => call(api.channels.mapCategory, { params, body: { maps, market } }),
    onSuccess: (effect, maps) => {
      tell(
        `Mapped ${plural(maps.length, 'category', 'categories')}; ${plural(effect.listingsChanged, 'listing')} re-checked${effect.becameReady > 0 ? `, ${count(effect.becameReady)} became ready` : ''}`,
      );
      tried.reset();
      void queries.invalidateQueries();
    },
  });
  const options = (tree.data?.items ?? []).filter((row) => row.leaf || !tree.data?.leafOnly);
  const [address, set] = useAddress(categoriesAddress);
  return (
    <Loaded query={categories}>
      {({ items }) => {
        const chosen = items.find(({ category }) => category === address.category) ?? items[0];
        const open = items.filter((row) => row.variants > 0 && (row.target === null || row.fault !== null));
        const taken = open.flatMap(({ category, suggestions: [first] }) =>
          first && (from === 'sure' ? first.isSure : first.score >= Number(from)) ? [{ category, first }] : [],
        );
        const certain = taken.map(({ category, first }) => ({ category, target: first.path }));
        const likely = Math.round(taken.reduce((sum, { first }) => sum + first.score / 100, 0));
        return (
          <Box grow row align="stretch" gap={0} minHigh={0}>
            <Box grow scroll pad={[2.5, 5, 6, 6]} minWide={0}>
              {map.error && <ProblemBox error={map.error} />}
              <Box row below={2}>
                <Box as="span" grow>
                  {open.length > 0 ? (
                    <>
                      <b>{plural(open.length, 'category', 'categories')}</b> with goods{' '}
                      {open.length === 1 ? 'has' : 'have'} no good place in the channel’s tree.
                    </>
                  ) : (
                    'Every category with goods has its place.'
                  )}
                </Box>
                {hasMarkets && (
                  <TextField
                    select
                    size="small"
                    label="What is mapped now holds"
                    value={isHere ? 'here' : 'all'}
                    onChange={({ target }) => setHere(target.value === 'here')}
                    sx={{ width: 220 }}
                  >
                    <MenuItem value="all">in all markets</MenuItem>
                    <MenuItem value="here">in {place?.market} alone</MenuItem>
                  </TextField>
                )}
                {open.length > 0 && (
                  <TextField
                    select
                    size="small"
                    label="Take together"
                    value={from}
                    onChange={({ target }) => {
                      setFrom(target.value);
                      tried.reset();
                    }}
                    sx={{ width: 150 }}
                  >
                    <MenuItem value="sure">what is sure</MenuItem>
                    {scores.map((score) => (
                      <MenuItem key={score} value={score}>
                        from {score} % on
                      </MenuItem>
                    ))}
                  </TextField>
                )}
                {certain.length > 0 && !tried.data && (
                  <Button variant="outlined" disabled={tried.isPending} onClick={() => tried.mutate(certain)}>
                    {tried.isPending ? 'Trying…' : `See what ${plural(certain.length, 'suggestion')} would do`}
                  </Button>
                )}
              </Box>
              {tried.error && <ProblemBox error={tried.error} />}
              {tried.data && certain.length > 0 && (
                <div className="effect" role="status">
                  <Box grow>
                    <Box serif>{sayBecoming(tried.data)}</Box>
                    <Box muted small>
                      Tried on the whole assortment, not saved.{' '}
                      {from === 'sure'
                        ? 'What is less than 90 % likely, or wanted by two of yours, is left for you.'
                        : `By their scores about ${count(likely)} of ${count(certain.length)} are right: look through them afterwards.`}
                    </Box>
                  </Box>
                  <Button variant="outlined" color="inherit" onClick={() => tried.reset()}>
                    Leave it
                  </Button>
                  <Button variant="contained" disabled={map.isPending} onClick={() => map.mutate(certain)}>
                    Accept {plural(certain.length, 'suggestion')}
                  </Button>
                </div>
              )}
              <DataTable
                label="Category map"
                look={{ surface: 'card' }}
                rows={items}
                keyOf={({ category }) => category}
                chosen={chosen?.category}
                onChoose={({ category }) => set({ category })}
                columns={[
                  {
                    head: 'Our category',
                    sortBy: ({ names }) => names.join(' / '),
                    look: { minWide: 170 },
                    cell: ({ names }) => (
                      <button type="button" className="value">
                        <Box as="span" muted>
                          {names.slice(0, -1).map((name) => `${name} / `)}
                        </Box>
                        <Box as="b" strong>
                          {names.at(-1)}
                        </Box>
                      </button>
                    ),
                  },
                  {
                    head: 'Variants',
                    sortBy: ({ variants }) => variants,
                    look: ({ variants }) => ({ num: true, muted: variants === 0 }),
                    headLook: { num: true },
                    cell: ({ variants }) => count(variants),
                  },
                  {
                    head: 'The channel’s category',
                    headLook: { wide: 330 },
                    sortBy: ({ target }) => target,
                    cell: (row) => (
                      <>
                        <Target
                          row={row}
                          options={options}
                          busy={map.isPending}
                          onMap={(target) => map.mutate([{ category: row.category, target }])}
                        />
                        <Best
                          row={row}
                          isChosen={row.category === chosen?.category}
                          busy={map.isPending}
                          onMap={(target) => map.mutate([{ category: row.category, target }])}
                        />
                        {row.isOfMarket && (
                          <Box small muted above={0.5}>
                            in {place?.market} alone{isHere && ': taken away, that of all markets holds again'}
                          </Box>
                        )}
                      </>
                    ),
                  },
                ]}
              />
            </Box>
            {chosen && (
              <CategoryPanel
                key={chosen.category}
                placeId={placeId}
                row={chosen}
                rows={items}
                market={market}
                isBusy={map.isPending}
                onMap={(one) => map.mutate([one])}
              />
            )}
          </Box>
        );
      }}
    </Loaded>
  );
}

/** What one of our categories is mapped to, to be chosen from the channel's tree. */
function Target({
  row,
  options,
  busy,
  onMap,
}: {
  row: CategoryRow;
  options: readonly ChannelCategory[];
  busy: boolean;
  onMap: (target: string | null) => void;
}) {
  const value =
    options.find((option) => option.path === row.target) ??
    (row.target ? { path: row.target, names: row.targetNames ?? [row.target] } : null);
  return (
    <>
      <CategoryPick
        label={`Channel category for ${row.names.join(' / ')}`}
        options={options}
        value={value}
        disabled={busy}
        onPick={onMap}
      />
      {row.fault && <State is="blocked">{row.fault}</State>}
      {row.splits.length > 0 && (
        <Box small muted above={0.5}>
          {plural(row.splits.length, 'split')}: some of them stand elsewhere
        </Box>
      )}
    </>
  );
}

/** The likeliest, taken by a click; the panel has the others, with their evidence. */
function Best({
  row,
  isChosen,
  busy,
  onMap,
}: {
  row: CategoryRow;
  /** Its row is tinted: what is brass could not be read there. */
  isChosen: boolean;
  busy: boolean;
  onMap: (target: string) => void;
}) {
  const [best] = row.suggestions;
  if (!best) return null;
  return (
    <Box above={0.5}>
      <Button
        color={isChosen ? 'inherit' : 'secondary'}
        sx={{ p: 0, minWidth: 0 }}
        disabled={busy}
        onClick={(event) => {
          event.stopPropagation();
          onMap(best.path);
        }}
        title={best.names.join(' / ')}
      >
        {best.names.slice(-2).join(' / ')}
      </Button>
      <Box as="span" small muted>
        {' '}
        {best.score} %
      </Box>
    </Box>
  );
}
