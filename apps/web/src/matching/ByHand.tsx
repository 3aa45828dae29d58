/** Two goods joined by hand: one is known, the other is looked for, and both stand side by side before it is decided. */
import Button from '@mui/material/Button';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { Link, useNavigate } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { SearchBox } from '../design/SearchBox';
import { Sides } from './Sides';
import { Unsure } from './Unsure';
import './matching.css';

const byHandAddress = z.object({ a: inAddress.number, b: inAddress.number, search: inAddress.search });

export function ByHand() {
  const [{ a, b, search }, set] = useAddress(byHandAddress);
  const known = useQuery({
    ...ask(api.catalog.product, { params: { id: a ?? 0 } }),
    enabled: a !== undefined,
  });
  const found = useQuery({
    ...ask(api.today.search, { query: { q: search, only: 'ordered', limit: 50 } }),
    enabled: search.length > 1,
    placeholderData: keepPreviousData,
  });
  if (a === undefined)
    return (
      <Box grow>
        <Empty title="Nothing is chosen">
          Open a product in the <Link to="/catalog">catalog</Link>, and choose “Join with…” there.
        </Empty>
      </Box>
    );
  const items = (search.length > 1 ? (found.data?.items ?? []) : []).filter(({ id }) => id !== a);
  return (
    <Box as="section" col grow>
      <Box pad={[3, 6, 2.5]} line="bottom">
        <h1>The same goods as…</h1>
        <Loaded query={known}>
          {(product) => (
            <Box muted>
              {product.title} · {product.sku ?? product.sources[0]?.key ?? 'no number'}
            </Box>
          )}
        </Loaded>
      </Box>
      <Box grow row align="stretch" gap={0} minHigh={0}>
        <Box col wide={380} fixed line="right" minHigh={0}>
          <Box pad={[2.5, 4]}>
            <SearchBox
              label="Find the other"
              value={search}
              onSearch={(text) => set({ search: text, b: undefined }, { replace: true })}
              wide={340}
            />
          </Box>
          <Box as="ol" grow scroll unmarked aria-label="Goods found">
            {items.map(({ id, title, sku }) => (
              <li key={id}>
                <button
                  type="button"
                  className={`pair ${id === b ? 'on' : ''}`}
                  aria-current={id === b}
                  onClick={() => set({ b: id })}
                >
                  <span />
                  <Box as="span" minWide={0}>
                    <Box as="span" cut block>
                      {title ?? 'No title'}
                    </Box>
                    <Box as="span" small muted cut block>
                      {sku ?? 'no SKU'}
                    </Box>
                  </Box>
                </button>
              </li>
            ))}
            {search.length > 1 && items.length === 0 && !found.isFetching && (
              <Box as="li" pad={[2, 4]} muted>
                No other goods of that name or number
              </Box>
            )}
          </Box>
        </Box>
        {b === undefined ? (
          <Box grow>
            <Empty title="Find the other by its name or number">
              Both stand side by side here before anything is joined.
            </Empty>
          </Box>
        ) : (
          <Both key={b} a={a} b={b} />
        )}
      </Box>
    </Box>
  );
}

function Both({ a, b }: { a: number; b: number }) {
  const queries = useQueryClient();
  const tell = useTell();
  const navigate = useNavigate();
  const compared = useQuery(ask(api.matching.compare, { query: { a, b } }));
  const join = useMutation({
    mutationFn: (sure: boolean) =>
      call(api.matching.decide, { body: { verdict: 'same', pairs: [{ a, b }], ...(sure ? { sure } : {}) } }),
    onSuccess: ({ done, left, unsure }) => {
      if (unsure.length > 0 && done === 0) return;
      tell(
        done === 0 ? `They were not joined: ${left[0] ?? 'one of them is no source’s'}` : 'They are one now',
        done === 0 ? 'error' : 'success',
      );
      void queries.invalidateQueries();
      if (done > 0) void navigate(`/matching?tab=joined&product=${a}`);
    },
  });
  const unsure = join.data?.unsure[0]?.words;
  return (
    <Box col grow minWide={0} surface="card">
      <Box grow scroll pad={[3.5, 5]} role="region" aria-label="Both" tabIndex={0}>
        {join.error && <ProblemBox error={join.error} />}
        {unsure && <Unsure words={unsure} isBusy={join.isPending} onSure={() => join.mutate(true)} />}
        <Box above={1.5}>
          <Loaded query={compared}>{(data) => <Sides data={data} onlyShared={false} />}</Loaded>
        </Box>
      </Box>
      <Box row pad={[3, 5]} surface="brass" gap={2.5}>
        <Box grow small muted>
          Joined goods are one product that both sources speak for; they can be split again.
        </Box>
        <Button variant="contained" disabled={join.isPending} onClick={() => join.mutate(false)}>
          The same goods
        </Button>
      </Box>
    </Box>
  );
}
