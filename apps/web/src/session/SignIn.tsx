import { Box } from '../design/Box';
import { Front } from '../design/Front';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { type FormEvent, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { ProblemBox } from '../design/feedback';

export function SignIn() {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const queries = useQueryClient();
  const signIn = useMutation({
    mutationFn: () => call(api.session.signIn, { body: { email, password } }),
    onSuccess: async () => {
      queries.clear();
      const to = search.get('to') ?? '/';
      await navigate(to.startsWith('/') && !to.startsWith('//') ? to : '/', { replace: true });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate();
  };
  return (
    <Front
      name="Velvet Shelf"
      words="Suppliers’ files in, good product records on the shelf, feeds that are accepted the first time."
    >
      <Box as="form" wide={320} columns gap={3.5} onSubmit={submit}>
        <Box as="h2" textSize={22}>
          Sign in
        </Box>
        <TextField
          label="E-mail address"
          type="email"
          autoComplete="username"
          value={email}
          onChange={(event) => setEmail(event.target.value)}
          autoFocus
          required
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          required
        />
        {signIn.error && <ProblemBox error={signIn.error} />}
        <Button type="submit" variant="contained" disabled={signIn.isPending}>
          Sign in
        </Button>
      </Box>
    </Front>
  );
}
