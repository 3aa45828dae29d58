/** A version that is taken by itself on a day: said, planned and called off. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { day } from '../design/words';

interface Props {
  placeId: number;
  version: { id: number; validFrom: string; takeOn: string | null };
}

export function TakeOn({ placeId, version: { id: rulebookId, validFrom, takeOn } }: Props) {
  const [isOpen, setOpen] = useState(false);
  const queries = useQueryClient();
  const tell = useTell();
  const form = useFields(api.channels.planRulebook.body, { takeOn: takeOn ?? validFrom });
  const plan = useMutation({
    mutationFn: (to: string | null) =>
      call(api.channels.planRulebook, { params: { id: placeId, rulebookId }, body: { takeOn: to } }),
    onSuccess: (_, to) => {
      tell(to === null ? 'It waits until somebody takes it' : `It is taken by itself on ${day(to)}`);
      setOpen(false);
      void queries.invalidateQueries();
    },
  });
  if (takeOn !== null)
    return (
      <Box row above={1}>
        <Box grow>
          It is taken by itself on <b>{day(takeOn)}</b>.
        </Box>
        <Button color="secondary" disabled={plan.isPending} onClick={() => plan.mutate(null)}>
          Not any more
        </Button>
        {plan.error && <ProblemBox error={plan.error} />}
      </Box>
    );
  if (!isOpen)
    return (
      <Button color="secondary" sx={{ p: 0, mt: 1 }} onClick={() => setOpen(true)}>
        Take it by itself on a day
      </Button>
    );
  return (
    <Form
      form={form}
      onSend={(to) => plan.mutate(to.takeOn)}
      onCancel={() => setOpen(false)}
      error={plan.error}
      above={3}
    >
      <Box row align="start">
        <Field control={form.control} name="takeOn" type="date" label="Day it is taken" />
        <Button type="submit" variant="contained" disabled={plan.isPending}>
          Plan it
        </Button>
        <Button color="inherit" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
