/** A rate of exchange said or changed: one of a currency in another, who says so, for which day. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type RateAnswer, api, rateSchema } from '@velvet-shelf/contract';
import type { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { sayBecoming } from '../design/words';

const asked = rateSchema.pick({ rate: true, source: true, day: true });

export function RateForm({
  from,
  to,
  is,
  onDone,
}: {
  from: string;
  to: string;
  /** What it is until now. */
  is?: RateAnswer;
  onDone?: () => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const form = useFields(asked, {
    rate: is?.rate ?? '',
    source: is?.source ?? '',
    day: new Date().toISOString().slice(0, 10),
  });
  const save = useMutation({
    mutationFn: (said: z.output<typeof asked>) =>
      call(api.company.setRate, { body: { from, to, is: said, was: is?.rate ?? null } }),
    onSuccess: (effect) => {
      tell(`Kept the rate; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
      onDone?.();
    },
  });
  return (
    <Form form={form} onSend={(body) => save.mutate(body)} onCancel={onDone} error={save.error}>
      <Box row align="start" wrap>
        <Field control={form.control} name="rate" label={`One ${from} in ${to}`} />
        <Field control={form.control} name="source" label="Who says so" />
        <Field control={form.control} name="day" label="Day of the rate" type="date" />
        <Button type="submit" variant="contained" disabled={save.isPending}>
          Keep the rate
        </Button>
        {onDone && (
          <Button color="secondary" onClick={onDone}>
            Cancel
          </Button>
        )}
      </Box>
    </Form>
  );
}
