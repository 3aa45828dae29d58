/** Coming in by a link that an owner sent. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { Link, useNavigate, useParams } from 'react-router';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { Front } from '../design/Front';
import { NewPassword } from './NewPassword';

export function Join() {
  const { token = '' } = useParams();
  const invited = useQuery({ ...ask(api.session.invited, { params: { token } }), retry: false });
  const form = useFields(api.session.join.body, { name: '', password: '' });
  const navigate = useNavigate();
  const queries = useQueryClient();
  const join = useMutation({
    mutationFn: (body: z.output<typeof api.session.join.body>) => call(api.session.join, { params: { token }, body }),
    onSuccess: async () => {
      queries.clear();
      await navigate('/', { replace: true });
    },
  });
  const { control } = form;
  return (
    <Front name="Velvet Shelf" words={invited.data ? `${invited.data.company} invites you to its shelf.` : ''}>
      {invited.error ? (
        <Box wide={340}>
          <ProblemBox error={invited.error} />
          <Link to="/sign-in">Sign in</Link>
        </Box>
      ) : (
        invited.data && (
          <Form form={form} onSend={(body) => join.mutate(body)} error={join.error} wide={340} columns gap={3.5}>
            <Box as="h2" textSize={22}>
              Come in
            </Box>
            <Box muted>
              {invited.data.email}, as {invited.data.role}
            </Box>
            <Field control={control} name="name" label="Your name" autoComplete="name" autoFocus required />
            <NewPassword />
            <Button type="submit" variant="contained" disabled={join.isPending}>
              Make the account
            </Button>
          </Form>
        )
      )}
    </Front>
  );
}
