/** A place in one of the markets that an account sells in. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ChannelAnswer, api } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';

/** Goods that are on sale: what a place gets unless one says otherwise. */
const onSale = { all: [] };

export function NewPlace({
  channel,
  account,
  markets,
  onDone,
}: {
  channel: ChannelAnswer;
  account: number;
  markets: ChannelAnswer['markets'];
  onDone: () => void;
}) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const tell = useTell();
  const form = useFields(api.channels.addPlace.body, {
    ...{ account, name: '', condition: onSale },
    market: markets[0]?.key ?? '',
  });
  const add = useMutation({
    mutationFn: (body: z.output<typeof api.channels.addPlace.body>) =>
      call(api.channels.addPlace, { params: { id: channel.id }, body }),
    onSuccess: async ({ id }) => {
      onDone();
      tell('The place stands. All goods go there until you say which.');
      void queries.invalidateQueries();
      await navigate(`/places/${id}/goods`);
    },
  });
  return (
    <Form form={form} onSend={(body) => add.mutate(body)} onCancel={onDone} error={add.error} above={3}>
      <Box row align="start">
        <Field
          control={form.control}
          name="market"
          label="Market"
          options={markets.map(({ key, name, language, currency }) => [
            key,
            `${name} · ${sayLanguage(language)} · ${currency}`,
          ])}
          sx={{ minWidth: 260 }}
        />
        <Field
          control={form.control}
          name="name"
          label="Name of the place"
          placeholder={`${channel.name}, ${markets[0]?.name}`}
        />
        <Button type="submit" variant="contained" disabled={add.isPending}>
          Make the place
        </Button>
      </Box>
    </Form>
  );
}
