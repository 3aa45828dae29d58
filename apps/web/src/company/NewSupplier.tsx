/** A new supplier by name; trusted last until ranked otherwise. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { z } from 'zod';
import { keyOf } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';

export function NewSupplier({ onAdded, onCancel }: { onAdded: (id: number) => void; onCancel: () => void }) {
  const queries = useQueryClient();
  const form = useFields(api.company.addSupplier.body, { name: '' });
  const add = useMutation({
    mutationFn: (body: z.output<typeof api.company.addSupplier.body>) => call(api.company.addSupplier, { body }),
    onSuccess: ({ id }) => {
      void queries.invalidateQueries({ queryKey: keyOf(api.company.suppliers) });
      onAdded(id);
    },
  });
  return (
    <Form form={form} onSend={(body) => add.mutate(body)} onCancel={onCancel} error={add.error}>
      <Box row align="start">
        <Field control={form.control} name="name" label="Name of the supplier" autoFocus />
        <Button type="submit" variant="contained" disabled={add.isPending || form.watch('name').trim() === ''}>
          Add
        </Button>
        <Button color="secondary" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
