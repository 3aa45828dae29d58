/** Our categories to the channel’s: what has most goods and no category comes first, with ranked suggestions. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type CategoryRow, api } from '@velvet-shelf/contract';
import { call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { State } from '../design/State';
import { count, plural, sayBecoming } from '../design/words';

const sure = 60;

export function Categories({ placeId }: { placeId: number }) {
  const params = { id: placeId };
  const queries = useQueryClient();
  const tell = useTell();
  const categories = useQuery({
    queryKey: ['categories', placeId],
    queryFn: () => call(api.channels.categories, { params }),
  });
  const tree = useQuery({
    queryKey: ['tree', placeId],
    queryFn: () => call(api.channels.tree, { params }),
    staleTime: 300_000,
  });
  const tried = useMutation({
    mutationFn: (maps: { category: string; target: string | null }[]) =>
      call(api.channels.tryCategories, { params, body: { maps } }),
  });
  const map = useMutation({
    mutationFn: (maps: { category: string; target: string | null }[]) =>
      call(api.channels.mapCategory, { params, body: { maps } }),
    onSuccess: (effect, maps) => {
      tell(
        `Mapped ${plural(maps.length, 'category', 'categories')}; ${plural(effect.listingsChanged, 'listing')} re-checked${effect.becameReady > 0 ? `, ${count(effect.becameReady)} became ready` : ''}`,
      );
      tried.reset();
      void queries.invalidateQueries();
    },
  });
  const options = (tree.data?.items ?? []).filter((row) => row.leaf || !tree.data?.leafOnly);
  return (
    <div className="scroll grow" style={{ padding: '10px 24px 24px' }}>
      {map.error && <ProblemBox error={map.error} />}
      <Loaded query={categories}>
        {({ items }) => {
          const open = items.filter((row) => row.variants > 0 && (row.target === null || row.fault !== null));
          const certain = open.flatMap(({ category, suggestions: [first, second] }) =>
            // Two that are as good as each other are no certainty.
            first && first.score >= sure && first.score !== second?.score ? [{ category, target: first.path }] : [],
          );
          return (
            <>
              <div className="row" style={{ marginBottom: 8 }}>
                <span className="grow">
                  {open.length > 0 ? (
                    <>
                      <b>{plural(open.length, 'category', 'categories')}</b> with goods{' '}
                      {open.length === 1 ? 'has' : 'have'} no good place in the channel’s tree.
                    </>
                  ) : (
                    'Every category with goods has its place.'
                  )}
                </span>
                {certain.length > 0 && !tried.data && (
                  <Button variant="outlined" disabled={tried.isPending} onClick={() => tried.mutate(certain)}>
                    {tried.isPending
                      ? 'Trying…'
                      : `See what ${plural(certain.length, 'suggestion')} of ${sure} and above would do`}
                  </Button>
                )}
              </div>
              {tried.error && <ProblemBox error={tried.error} />}
              {tried.data && certain.length > 0 && (
                <div className="effect" role="status">
                  <div className="grow">
                    <div className="serif">{sayBecoming(tried.data)}</div>
                    <div className="small muted">
                      Tried on the whole assortment, not saved. Suggestions below {sure}, and those of which two are as
                      good as each other, are left for you.
                    </div>
                  </div>
                  <Button variant="outlined" color="inherit" onClick={() => tried.reset()}>
                    Leave it
                  </Button>
                  <Button variant="contained" disabled={map.isPending} onClick={() => map.mutate(certain)}>
                    Accept {plural(certain.length, 'suggestion')}
                  </Button>
                </div>
              )}
              <table className="plain" style={{ background: 'var(--card)' }}>
                <thead>
                  <tr>
                    <th>Our category</th>
                    <th className="num">Variants</th>
                    <th style={{ width: 360 }}>The channel’s category</th>
                    <th>Suggestions</th>
                  </tr>
                </thead>
                <tbody>
                  {items.map((row) => (
                    <Row
                      key={row.category}
                      row={row}
                      options={options}
                      busy={map.isPending}
                      onMap={(target) => map.mutate([{ category: row.category, target }])}
                    />
                  ))}
                </tbody>
              </table>
            </>
          );
        }}
      </Loaded>
    </div>
  );
}

interface Option {
  path: string;
  names: string[];
}

function Row({
  row,
  options,
  busy,
  onMap,
}: {
  row: CategoryRow;
  options: Option[];
  busy: boolean;
  onMap: (target: string | null) => void;
}) {
  const value =
    options.find((option) => option.path === row.target) ??
    (row.target ? { path: row.target, names: row.targetNames ?? [row.target] } : null);
  const names = row.category.split('/');
  return (
    <tr>
      <td style={{ minWidth: 170 }}>
        <span className="muted">{names.slice(0, -1).map((name) => `${name} / `)}</span>
        <b style={{ fontWeight: 600 }}>{names.at(-1)}</b>
      </td>
      <td className="num">{row.variants > 0 ? count(row.variants) : <span className="muted">0</span>}</td>
      <td>
        <Autocomplete
          size="small"
          options={options}
          value={value}
          disabled={busy}
          getOptionLabel={(option) => option.names.join(' / ')}
          isOptionEqualToValue={(a, b) => a.path === b.path}
          onChange={(_, row) => onMap(row?.path ?? null)}
          renderInput={(params) => (
            <TextField
              {...params}
              placeholder="not mapped"
              slotProps={{
                ...params.slotProps,
                htmlInput: { ...params.slotProps?.htmlInput, 'aria-label': `Channel category for ${row.category}` },
              }}
            />
          )}
        />
        {row.fault && <State is="blocked">{row.fault}</State>}
      </td>
      <td>
        {row.suggestions.slice(0, 3).map((suggestion, i) => (
          <div key={suggestion.path}>
            <Button
              color="secondary"
              sx={{ p: 0, minWidth: 0 }}
              disabled={busy}
              onClick={() => onMap(suggestion.path)}
              title={suggestion.names.join(' / ')}
            >
              {suggestion.names.slice(-2).join(' / ')}
            </Button>
            <span className="muted small"> {suggestion.score}</span>
            {i === 0 && <div className="muted small">{suggestion.evidence.join(' · ')}</div>}
          </div>
        ))}
      </td>
    </tr>
  );
}
