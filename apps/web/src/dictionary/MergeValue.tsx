/** A value made one with another of its list: which, and what that does, said before it is done. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ListValueAnswer, api } from '@velvet-shelf/contract';
import { useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { Form, useFields } from '../design/Form';
import { Pick } from '../design/Pick';
import { plural } from '../design/words';

const asked = z.object({ into: z.string().min(1, 'Choose the one that is left') });

export function MergeValue({
  value,
  all,
  onDone,
  onCancel,
}: {
  value: ListValueAnswer;
  all: readonly ListValueAnswer[];
  onDone: () => void;
  onCancel: () => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const form = useFields(asked, { into: '' });
  const chosen = useWatch({ control: form.control, name: 'into' });
  const into = all.find(({ id }) => String(id) === chosen);
  const below = useMemo(() => all.filter(({ parentId }) => parentId === value.id).length, [all, value.id]);
  const name = value.path.join(' / ');
  const merge = useMutation({
    mutationFn: (id: number) => call(api.dictionary.mergeValue, { params: { id: value.id }, body: { into: id } }),
    onSuccess: () => {
      tell(`${name} is ${into?.path.join(' / ') ?? 'the other'} now`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  return (
    <Form form={form} onSend={({ into: id }) => merge.mutate(Number(id))} onCancel={onCancel} gap={2} pad={[2, 0]}>
      <Pick
        control={form.control}
        name="into"
        label={`${name} becomes`}
        choices={all.flatMap(({ id, path }) => (id === value.id ? [] : [{ code: String(id), name: path.join(' / ') }]))}
        helperText="The one that is left"
      />
      {into && (
        <p>
          {plural(value.goods, 'product has', 'products have')} {name} and will have {into.path.join(' / ')}.{' '}
          {below > 0 && `${plural(below, 'value')} below it will stand below that one. `}
          Files, maps, fills and conditions that say {value.path.at(-1)} will mean it. It can be undone in the history.
        </p>
      )}
      {merge.error && <ProblemBox error={merge.error} />}
      <Box row>
        <Button type="submit" variant="contained" disabled={merge.isPending}>
          Make one
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
