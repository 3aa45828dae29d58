/** Prices of a product by currency: the regular one, and the sale beside it with the regular struck through. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ProductAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { keyOf } from '../api/ask';
import { call } from '../api/call';
import { z } from 'zod';
import { Field, Form, useFields } from '../design/Form';
import { useTell } from '../design/feedback';
import { Line } from '../design/Line';
import { money } from '../design/words';
import { useCompany } from '../company/company';

type Offer = ProductAnswer['price'][string];

export function Prices({ product }: { product: ProductAnswer }) {
  const offers = Object.entries(product.price);
  const own = useCompany().currencies.slice(0, 1);
  return (offers.length > 0 ? offers : own.map((currency): [string, Offer] => [currency, {}])).map(
    ([currency, offer]) => <Price key={currency} productId={product.id} currency={currency} offer={offer} />,
  );
}

function Price({ productId, currency, offer }: { productId: number; currency: string; offer: Offer }) {
  const [open, setOpen] = useState(false);
  return (
    <Line label={`Price ${currency}`}>
      {open ? (
        <PriceForm productId={productId} currency={currency} offer={offer} onDone={() => setOpen(false)} />
      ) : (
        <button type="button" className="value" aria-label={`Edit price ${currency}`} onClick={() => setOpen(true)}>
          {offer.sale ? (
            <>
              <b>{money(offer.sale.amount, currency)}</b>{' '}
              <Box as="s" muted>
                {money(offer.regular, currency)}
              </Box>{' '}
              <Box as="span" small muted>
                sale{offer.sale.from && ` from ${offer.sale.from}`}
                {offer.sale.to && ` to ${offer.sale.to}`}
              </Box>
            </>
          ) : offer.regular === undefined ? (
            <Box as="span" muted>
              not given
            </Box>
          ) : (
            money(offer.regular, currency)
          )}
        </button>
      )}
    </Line>
  );
}

/** As they are typed; the server reads them in the product's own way. */
const priceFields = z.object({ price: z.string(), salePrice: z.string() });

function PriceForm({
  productId,
  currency,
  offer,
  onDone,
}: {
  productId: number;
  currency: string;
  offer: Offer;
  onDone(): void;
}) {
  // As it was when the form was opened: what somebody else saved meanwhile is not written over unseen.
  const [held] = useState({ price: offer.regular ?? '', salePrice: offer.sale?.amount ?? '' });
  const form = useFields(priceFields, held);
  const queries = useQueryClient();
  const tell = useTell();
  const draft = form.watch();
  const changed = (['price', 'salePrice'] as const).filter((field) => draft[field].trim() !== held[field]);
  const save = useMutation({
    mutationFn: () =>
      call(api.catalog.edit, {
        params: { id: productId },
        body: {
          edits: changed.map((attribute) => ({
            attribute,
            language: currency,
            text: draft[attribute].trim() || null,
            madeAgainst: held[attribute] || null,
          })),
        },
      }),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: keyOf(api.catalog.product, { params: { id: productId } }) });
      void queries.invalidateQueries();
      tell('Saved the price');
      onDone();
    },
  });
  return (
    <Form form={form} onSend={() => save.mutate()} onCancel={onDone} error={save.error}>
      <Box row>
        {(['price', 'salePrice'] as const).map((name) => (
          <Field
            key={name}
            control={form.control}
            name={name}
            label={name === 'price' ? 'Regular' : 'Sale'}
            autoFocus={name === 'price'}
            sx={{ width: 110 }}
            slotProps={{ htmlInput: { inputMode: 'decimal' } }}
          />
        ))}
        <Button type="submit" variant="contained" disabled={changed.length === 0 || save.isPending}>
          Save
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
