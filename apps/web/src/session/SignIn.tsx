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
    <div style={{ minHeight: '100%', display: 'grid', gridTemplateColumns: '1fr 1fr' }}>
      <div
        style={{
          background: 'linear-gradient(160deg, #3d1b36, #23101f)',
          color: '#f3e9ef',
          padding: '0 64px',
          display: 'flex',
          flexDirection: 'column',
          justifyContent: 'center',
          borderRight: '3px solid var(--brass-bright)',
        }}
      >
        <h1 style={{ fontSize: 44 }}>Velvet Shelf</h1>
        <p style={{ fontSize: 17, maxWidth: 400, color: '#d9c3d3' }}>
          Suppliers’ files in, good product records on the shelf, feeds that are accepted the first time.
        </p>
      </div>
      <main style={{ display: 'grid', placeItems: 'center' }}>
        <form onSubmit={submit} style={{ width: 320, display: 'grid', gap: 14 }}>
          <h2 style={{ fontSize: 22 }}>Sign in</h2>
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
        </form>
      </main>
    </div>
  );
}
