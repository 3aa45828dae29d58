/** Something made one with another of its kind: which, and what that does, said before it is done. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { Box } from './Box';
import { ProblemBox, useTell } from './feedback';
import { Form, useFields } from './Form';
import { Pick } from './Pick';

const asked = z.object({ into: z.string().min(1, 'Choose the one that is left') });

export function MergeForm({
  name,
  choices,
  effect,
  merge,
  onDone,
  onCancel,
}: {
  /** Of the one that goes. */
  name: string;
  /** Those it may be made one with, by number. */
  choices: readonly { id: number; name: string }[];
  /** What is told of a choice before it is made. */
  effect: (into: string) => ReactNode;
  merge: (into: number) => Promise<unknown>;
  onDone: () => void;
  onCancel: () => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const form = useFields(asked, { into: '' });
  const chosen = useWatch({ control: form.control, name: 'into' });
  const into = choices.find(({ id }) => String(id) === chosen);
  const merging = useMutation({
    mutationFn: merge,
    onSuccess: () => {
      tell(`${name} is ${into?.name ?? 'the other'} now`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  return (
    <Form form={form} onSend={({ into: id }) => merging.mutate(Number(id))} onCancel={onCancel} columns gap={2}>
      <Box as="h3" padRight={8}>
        Make {name} one with another
      </Box>
      <Pick
        control={form.control}
        name="into"
        label={`${name} becomes`}
        choices={choices.map(({ id, name: other }) => ({ code: String(id), name: other }))}
        helperText="The one that is left"
      />
      {into && <p>{effect(into.name)} It can be undone in the history.</p>}
      {merging.error && <ProblemBox error={merging.error} />}
      <Box row>
        <Button type="submit" variant="contained" disabled={merging.isPending}>
          Make one
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
