/** Goods that several sources describe: their claims side by side, who wins and why; and splitting them again. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { SearchBox } from '../design/SearchBox';
import { count, plural } from '../design/words';
import { Doubted } from './Doubted';
import { Sides } from './Sides';

const joinedAddress = z.object({ search: inAddress.search, product: inAddress.number });

export function Joined() {
  const [address, set] = useAddress(joinedAddress);
  const joined = useQuery({
    ...ask(api.matching.joined, { query: { search: address.search, limit: 300 } }),
    placeholderData: keepPreviousData,
  });
  return (
    <Loaded query={joined}>
      {(data) => {
        const chosen = address.product ?? data.items[0]?.id;
        return (
          <Box grow row align="stretch" gap={0} minHigh={0}>
            <Box col wide={390} fixed line="right" minHigh={0}>
              <Doubted />
              <Box pad={[2.5, 4]}>
                <b>{plural(data.total, 'product')} of several sources</b>
                <Box small muted>
                  {count(data.disagreeing)} where they do not all say the same
                </Box>
                <Box above={2}>
                  <SearchBox
                    label="Find goods"
                    value={address.search}
                    onSearch={(search) => set({ search }, { replace: true })}
                    wide={160}
                  />
                </Box>
              </Box>
              <Box as="ol" grow scroll unmarked aria-label="Joined goods">
                {data.items.map((row) => (
                  <li key={row.id}>
                    <button
                      type="button"
                      className={`pair ${row.id === chosen ? 'on' : ''}`}
                      onClick={() => set({ product: row.id })}
                    >
                      <span className="score">{row.differs > 0 ? row.differs : ''}</span>
                      <Box as="span" minWide={0}>
                        <Box as="span" cut block>
                          {row.title ?? row.sku}
                        </Box>
                        <Box as="span" small muted cut block>
                          {row.sources.map((source) => source.supplier).join(' + ')}
                        </Box>
                      </Box>
                    </button>
                  </li>
                ))}
              </Box>
            </Box>
            {chosen ? (
              <One key={chosen} id={chosen} />
            ) : (
              <Box grow>
                <Empty title="No goods of several sources yet">
                  Bring in a second supplier’s file; goods with the same identifier are joined.
                </Empty>
              </Box>
            )}
          </Box>
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
  const compared = useQuery(ask(api.matching.compare, { query: { a: id } }));
  const split = useMutation({
    mutationFn: () => call(api.matching.split, { params: { id }, body: { records: [...out] } }),
    onSuccess: ({ products }) => {
      tell(`Split into ${plural(products.length, 'product')}; each is as it was before`);
      setOut(new Set());
      void queries.invalidateQueries();
    },
  });
  return (
    <Box col grow minWide={0} surface="card">
      <Loaded query={compared}>
        {(data) => {
          const [product] = data.products;
          if (!product) return null;
          return (
            <>
              <Box grow scroll pad={[3.5, 5]} role="region" aria-label="Claims side by side" tabIndex={0}>
                <Box row>
                  <Box as="h2" grow>
                    {product.title ?? product.sku}
                  </Box>
                  <Link to={`/catalog?open=${id}`}>Open in the catalog</Link>
                </Box>
                <Box as="label" small muted row gap={1}>
                  <Checkbox size="small" sx={{ p: 0.4 }} checked={onlyShared} onChange={(_, on) => setOnlyShared(on)} />
                  only what several sources say
                </Box>
                <Sides data={data} onlyShared={onlyShared} />
              </Box>
              <Box wrap row pad={[3, 5]} surface="brass" gap={2.5}>
                <Box grow>
                  {split.error ? (
                    <ProblemBox error={split.error} />
                  ) : (
                    <b>Not the same goods? Choose what to take out:</b>
                  )}
                  <Box wrap row gap={3}>
                    {product.sources.map((source) => (
                      <Box as="label" small row gap={1} key={source.recordId}>
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
                      </Box>
                    ))}
                  </Box>
                </Box>
                <Button
                  variant="contained"
                  disabled={split.isPending || out.size === 0 || out.size === product.sources.length}
                  onClick={() => split.mutate()}
                >
                  Split
                </Button>
              </Box>
            </>
          );
        }}
      </Loaded>
    </Box>
  );
}
