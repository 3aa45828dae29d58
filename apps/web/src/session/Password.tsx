/** One's own password, changed. */
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { NewPassword } from './NewPassword';

export function Password({ onDone }: { onDone: () => void }) {
  const tell = useTell();
  const form = useFields(api.session.password.body, { current: '', password: '' });
  const change = useMutation({
    mutationFn: (body: z.output<typeof api.session.password.body>) => call(api.session.password, { body }),
    onSuccess: () => {
      tell('The password is another now; other sessions have ended');
      onDone();
    },
  });
  const { control } = form;
  return (
    <Form
      form={form}
      onSend={(body) => change.mutate(body)}
      onCancel={onDone}
      error={change.error}
      columns
      gap={2.5}
      below={3}
    >
      <Field
        control={control}
        name="current"
        label="Password now"
        type="password"
        autoComplete="current-password"
        autoFocus
      />
      <NewPassword label="New password" />
      <Box row>
        <Button type="submit" variant="contained" disabled={change.isPending}>
          Change
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
