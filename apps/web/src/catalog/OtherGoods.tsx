/** What stands in for goods that have run out, kept and proposed, and what goes with them. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type OtherGoods as Other, type ProductAnswer, api } from '@velvet-shelf/contract';
import type { ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { writeAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { Thumb } from '../design/Thumb';
import { count, money } from '../design/words';

/** Shown where there is something to show: goods have run out, or others are kept beside them. */
export function OtherGoods({ product }: { product: ProductAnswer }) {
  const isOut = product.stock <= 0;
  const isKept = product.values.some(
    ({ role, text }) => (role === 'substitutes' || role === 'related') && text !== null,
  );
  const others = useQuery({
    ...ask(api.catalog.otherGoods, { params: { id: product.id } }),
    enabled: product.kind !== 'family' && (isOut || isKept),
  });
  const queries = useQueryClient();
  const tell = useTell();
  const keep = useMutation({
    mutationFn: (sku: string) => {
      const key = others.data?.substitutes.attribute?.key ?? '';
      const held = product.values.find(({ attribute }) => attribute === key)?.text ?? null;
      const text = held === null || held === '' ? sku : `${held}, ${sku}`;
      return call(api.catalog.edit, {
        params: { id: product.id },
        body: { edits: [{ attribute: key, text, madeAgainst: held }] },
      });
    },
    onSuccess: (_, sku) => {
      void queries.invalidateQueries();
      tell(`${sku} is offered instead`);
    },
  });
  if (!others.data) return others.error ? <ProblemBox error={others.error} /> : null;
  const { substitutes, related, proposed } = others.data;
  const canOffer = isOut && proposed.length > 0;
  if (substitutes.kept.length === 0 && related.kept.length === 0 && !canOffer) return null;
  return (
    <Box
      as="section"
      around={[2, 0]}
      pad={[2, 3]}
      rounded
      surface={isOut ? 'brass' : undefined}
      aria-label="Other goods"
    >
      {(substitutes.kept.length > 0 || canOffer) && (
        <Box as="h3">{isOut ? 'Run out: offered instead' : 'Offered where it has run out'}</Box>
      )}
      {substitutes.kept.map(({ sku, goods }) => (
        <Row key={sku} sku={sku} goods={goods} />
      ))}
      {isOut && substitutes.kept.length === 0 && (
        <Box small muted>
          Nothing is kept for it. These are like it and can be sold:
        </Box>
      )}
      {isOut &&
        proposed.map(({ goods, score, same, other }) => (
          <Row key={goods.id} sku={goods.sku ?? ''} goods={goods}>
            <Box small muted>
              {Math.round(score * 100)} % alike
              {same.length > 0 && ` · same ${same.join(', ')}`}
              {other.length > 0 && ` · other ${other.join(', ')}`}
            </Box>
            {substitutes.attribute && (
              <Button
                disabled={keep.isPending}
                aria-label={`Offer ${goods.sku} instead`}
                sx={{ p: 0 }}
                onClick={() => keep.mutate(goods.sku ?? '')}
              >
                Offer instead
              </Button>
            )}
          </Row>
        ))}
      {canOffer && !substitutes.attribute && (
        <Box small muted>
          To keep one, make an attribute that <Link to="/attributes">is known as substitutes</Link>.
        </Box>
      )}
      {keep.error && <ProblemBox error={keep.error} />}
      {related.kept.length > 0 && <Box as="h3">{related.attribute?.label}</Box>}
      {related.kept.map(({ sku, goods }) => (
        <Row key={sku} sku={sku} goods={goods} />
      ))}
    </Box>
  );
}

function Row({ sku, goods, children }: { sku: string; goods: Other | null; children?: ReactNode }) {
  const [currency] = useCompany().currencies;
  const { pathname, search } = useLocation();
  if (!goods)
    return (
      <Box small tone="blocked" pad={[1, 0]}>
        {sku}: no goods have this SKU
      </Box>
    );
  const isPage = pathname.startsWith('/catalog/product/');
  const to = isPage ? `/catalog/product/${goods.id}` : `/catalog?${writeAddress(search, { open: goods.id })}`;
  return (
    <Box row align="start" gap={2.5} pad={[1, 0]}>
      <Thumb name={goods.picture} size={34} />
      <Box grow minWide={0}>
        <Link to={to} className="plain">
          {goods.title ?? 'No title'}
        </Link>
        <Box small muted>
          {sku} · {money(goods.price, currency) || 'no price'} ·{' '}
          <Box as="span" tone={goods.stock <= 0 ? 'blocked' : 'inherit'}>
            {goods.stock <= 0 ? 'run out too' : `${count(goods.stock)} there`}
          </Box>
        </Box>
        {children}
      </Box>
    </Box>
  );
}
