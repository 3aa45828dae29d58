/** The first visit: whoever has the code that the command printed makes the owner's account. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';
import { Front } from '../design/Front';
import { NewPassword } from './NewPassword';

export function FirstVisit() {
  const form = useFields(api.session.own.body, { code: '', name: '', email: '', password: '' });
  const navigate = useNavigate();
  const queries = useQueryClient();
  const own = useMutation({
    mutationFn: (body: z.output<typeof api.session.own.body>) => call(api.session.own, { body }),
    onSuccess: async () => {
      queries.clear();
      await navigate('/begin', { replace: true });
    },
  });
  const { control } = form;
  return (
    <Front name="Velvet Shelf" words="This shelf is empty, and nobody’s. Whoever started it has the code.">
      <Form form={form} onSend={(body) => own.mutate(body)} error={own.error} wide={340} columns gap={3.5}>
        <Box as="h2" textSize={22}>
          Make it yours
        </Box>
        <Field
          control={control}
          name="code"
          label="Code of the first visit"
          helperText="Printed where the application was started, such as K7QD-3MXR"
          autoComplete="one-time-code"
          autoFocus
          required
        />
        <Field control={control} name="name" label="Your name" autoComplete="name" required />
        <Field control={control} name="email" label="E-mail address" type="email" autoComplete="username" required />
        <NewPassword />
        <Button type="submit" variant="contained" disabled={own.isPending}>
          Make the owner’s account
        </Button>
      </Form>
    </Front>
  );
}
