import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { Navigate, useNavigate } from 'react-router';
import { z } from 'zod';
import { useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';
import { Front } from '../design/Front';

/** Where one wanted to go. */
const signInAddress = z.object({ to: z.string().default('/') });

export function SignIn() {
  const form = useFields(api.session.signIn.body, { email: '', password: '' });
  const navigate = useNavigate();
  const [{ to }] = useAddress(signInAddress);
  const queries = useQueryClient();
  const signIn = useMutation({
    mutationFn: (body: z.output<typeof api.session.signIn.body>) => call(api.session.signIn, { body }),
    onSuccess: async () => {
      queries.clear();
      await navigate(to.startsWith('/') && !to.startsWith('//') ? to : '/', { replace: true });
    },
  });
  const { control } = form;
  // On a shelf that nobody owns there is nobody who could sign in.
  const firstRun = useQuery(ask(api.session.firstRun));
  if (firstRun.data?.owned === false) return <Navigate to="/first-visit" replace />;
  return (
    <Front
      name="Velvet Shelf"
      words="Suppliers’ files in, good product records on the shelf, feeds that are accepted the first time."
    >
      <Form form={form} onSend={(body) => signIn.mutate(body)} error={signIn.error} wide={320} columns gap={3.5}>
        <Box as="h2" textSize={22}>
          Sign in
        </Box>
        <Field
          control={control}
          name="email"
          label="E-mail address"
          type="email"
          autoComplete="username"
          autoFocus
          required
        />
        <Field
          control={control}
          name="password"
          label="Password"
          type="password"
          autoComplete="current-password"
          required
        />
        <Button type="submit" variant="contained" disabled={signIn.isPending}>
          Sign in
        </Button>
      </Form>
    </Front>
  );
}
