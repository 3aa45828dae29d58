/** Where the channel’s page of consent sends one back to: the account is joined with what one brings, once. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useEffect, useRef } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Empty, ProblemBox } from '../design/feedback';

export function Joined() {
  const [given] = useSearchParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [state, code] = [given.get('state'), given.get('code')];
  const join = useMutation({
    mutationFn: (body: { state: string; code: string }) => call(api.accounts.consented, { body }),
    onSuccess: async ({ id }) => {
      await queries.invalidateQueries();
      await navigate(`/channels?account=${id}`, { replace: true });
    },
  });
  const isSent = useRef(false);
  const { mutate } = join;
  useEffect(() => {
    // A code is good once.
    if (isSent.current || state === null || code === null) return;
    isSent.current = true;
    mutate({ state, code });
  }, [mutate, state, code]);
  const back = (
    <Button component={Link} to="/channels" variant="outlined">
      Back to the channels
    </Button>
  );
  return (
    <Box as="section" grow pad={[4.5, 6]}>
      <h1>Connecting</h1>
      {join.error ? (
        <>
          <ProblemBox error={join.error} title="Not connected" />
          {back}
        </>
      ) : code === null ? (
        <Empty title="Not connected">You did not let it: nothing was changed. {back}</Empty>
      ) : (
        <Box muted above={2} role="status">
          The channel is being asked…
        </Box>
      )}
    </Box>
  );
}
