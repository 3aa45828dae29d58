/** What a variant has on one option, changed in place for it alone. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ProductAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';
import { useTell } from '../design/feedback';
import { Line } from '../design/Line';

interface OptionRowProps {
  product: ProductAnswer;
  axis: string;
  value: string;
}

export function OptionRow({ product, axis, value }: OptionRowProps) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Line label={`Option: ${axis}`}>
      {isOpen ? (
        <OptionForm product={product} axis={axis} value={value} onDone={() => setOpen(false)} />
      ) : (
        <button type="button" className="value" aria-label={`Edit ${axis}`} onClick={() => setOpen(true)}>
          {value}
        </button>
      )}
    </Line>
  );
}

const optionFields = z.object({
  value: z
    .string()
    .trim()
    .max(200)
    .regex(/^[^|]*$/, 'Without |'),
});

function OptionForm({ product, axis, value, onDone }: OptionRowProps & { onDone: () => void }) {
  const queries = useQueryClient();
  const tell = useTell();
  // What it was when the form was opened: what somebody else makes of it meanwhile is not written over unseen.
  const [was] = useState({ value, plan: product.plan });
  const form = useFields(optionFields, { value });
  const save = useMutation({
    mutationFn: (to: string) =>
      call(api.options.save, {
        params: { id: product.family?.id ?? product.id },
        body: {
          plan: was.plan ?? { axes: [] },
          was: was.plan ?? { axes: [] },
          values: [{ variant: product.id, axis, value: to === '' ? null : to, was: was.value }],
        },
      }),
    onSuccess: () => {
      void queries.invalidateQueries();
      tell(`Saved ${axis}`);
      onDone();
    },
  });
  return (
    <Form form={form} onSend={({ value: to }) => save.mutate(to)} onCancel={onDone} error={save.error}>
      <Box row>
        <Field control={form.control} name="value" says={axis} autoFocus />
        <Button type="submit" variant="contained" disabled={save.isPending || form.watch('value').trim() === was.value}>
          Save
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
