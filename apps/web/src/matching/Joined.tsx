/** Goods that several sources describe: their claims side by side, who wins and why; and splitting them again. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useDeferredValue, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { count, plural } from '../design/words';
import { Doubted } from './Doubted';
import { Sides } from './Sides';

export function Joined() {
  const [params, setParams] = useSearchParams();
  const [search, setSearch] = useState('');
  const asked = useDeferredValue(search);
  const joined = useQuery({
    queryKey: ['joined', asked],
    queryFn: () => call(api.matching.joined, { query: { search: asked, limit: 300 } }),
    placeholderData: keepPreviousData,
  });
  return (
    <Loaded query={joined}>
      {(data) => {
        const chosen = Number(params.get('product')) || data.items[0]?.id;
        return (
          <div className="row grow" style={{ alignItems: 'stretch', gap: 0, minHeight: 0 }}>
            <div
              className="col"
              style={{ width: 390, flex: 'none', borderRight: '1px solid var(--line)', minHeight: 0 }}
            >
              <Doubted />
              <div style={{ padding: '10px 16px' }}>
                <b>{plural(data.total, 'product')} of several sources</b>
                <div className="muted small">{count(data.disagreeing)} where they do not all say the same</div>
                <TextField
                  placeholder="Find goods"
                  value={search}
                  onChange={(event) => setSearch(event.target.value)}
                  slotProps={{ htmlInput: { 'aria-label': 'Find goods' } }}
                  sx={{ width: 160, mt: 0.8 }}
                />
              </div>
              <ol
                className="scroll grow"
                style={{ listStyle: 'none', margin: 0, padding: 0 }}
                aria-label="Joined goods"
              >
                {data.items.map((row) => (
                  <li key={row.id}>
                    <button
                      type="button"
                      className={`pair ${row.id === chosen ? 'on' : ''}`}
                      onClick={() => setParams({ tab: 'joined', product: String(row.id) })}
                    >
                      <span className="score">{row.differs > 0 ? row.differs : ''}</span>
                      <span style={{ minWidth: 0 }}>
                        <span className="cut" style={{ display: 'block' }}>
                          {row.title ?? row.sku}
                        </span>
                        <span className="cut muted small" style={{ display: 'block' }}>
                          {row.sources.map((source) => source.supplier).join(' + ')}
                        </span>
                      </span>
                    </button>
                  </li>
                ))}
              </ol>
            </div>
            {chosen ? (
              <One key={chosen} id={chosen} />
            ) : (
              <div className="grow">
                <Empty title="No goods of several sources yet">
                  Bring in a second supplier’s file; goods with the same identifier are joined.
                </Empty>
              </div>
            )}
          </div>
        );
      }}
    </Loaded>
  );
}

function One({ id }: { id: number }) {
  const queries = useQueryClient();
  const tell = useTell();
  const [onlyShared, setOnlyShared] = useState(true);
  const [out, setOut] = useState<ReadonlySet<number>>(new Set());
  const compared = useQuery({
    queryKey: ['compare', id],
    queryFn: () => call(api.matching.compare, { query: { a: id } }),
  });
  const split = useMutation({
    mutationFn: () => call(api.matching.split, { params: { id }, body: { records: [...out] } }),
    onSuccess: ({ products }) => {
      tell(`Split into ${plural(products.length, 'product')}; each is as it was before`);
      setOut(new Set());
      void queries.invalidateQueries();
    },
  });
  return (
    <div className="grow col" style={{ minWidth: 0, background: 'var(--card)' }}>
      <Loaded query={compared}>
        {(data) => {
          const [product] = data.products;
          if (!product) return null;
          return (
            <>
              <div
                className="scroll grow"
                style={{ padding: '14px 20px' }}
                role="region"
                aria-label="Claims side by side"
                tabIndex={0}
              >
                <div className="row">
                  <h2 className="grow">{product.title ?? product.sku}</h2>
                  <Link to={`/catalog?open=${id}`}>Open in the catalog</Link>
                </div>
                <label className="row muted small" style={{ gap: 4 }}>
                  <Checkbox size="small" sx={{ p: 0.4 }} checked={onlyShared} onChange={(_, on) => setOnlyShared(on)} />
                  only what several sources say
                </label>
                <Sides data={data} onlyShared={onlyShared} />
              </div>
              <div className="row wrap" style={{ padding: '12px 20px', background: 'var(--brass-tint)', gap: 10 }}>
                <div className="grow">
                  {split.error ? (
                    <ProblemBox error={split.error} />
                  ) : (
                    <b>Not the same goods? Choose what to take out:</b>
                  )}
                  <div className="row wrap" style={{ gap: 12 }}>
                    {product.sources.map((source) => (
                      <label key={source.recordId} className="row small" style={{ gap: 4 }}>
                        <Checkbox
                          size="small"
                          sx={{ p: 0.4 }}
                          checked={out.has(source.recordId)}
                          onChange={(_, on) =>
                            setOut((now) => {
                              const next = new Set(now);
                              if (on) next.add(source.recordId);
                              else next.delete(source.recordId);
                              return next;
                            })
                          }
                        />
                        {source.supplier} {source.key}
                      </label>
                    ))}
                  </div>
                </div>
                <Button
                  variant="contained"
                  disabled={split.isPending || out.size === 0 || out.size === product.sources.length}
                  onClick={() => split.mutate()}
                >
                  Split
                </Button>
              </div>
            </>
          );
        }}
      </Loaded>
    </div>
  );
}
