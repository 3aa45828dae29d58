/** One's own account: who is signed in, and the way out. */
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Password } from '../session/Password';

export function Account({ name, email, role }: { name: string; email: string; role: string }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [isChanging, setChanging] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const signOut = useMutation({
    mutationFn: () => call(api.session.signOut),
    onSuccess: async () => {
      queries.clear();
      await navigate('/sign-in');
    },
  });
  const initials = name
    .split(' ')
    .map((part) => part.charAt(0))
    .join('');
  return (
    <>
      <IconButton
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-label={`Account of ${name}`}
        aria-haspopup="dialog"
        aria-expanded={anchor !== null}
        sx={{ p: 0 }}
      >
        <span className="face">{initials}</span>
      </IconButton>
      <Popover
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': 'Your account' } }}
      >
        <Box pad={[4, 5]} minWide={220}>
          <b>{name}</b>
          <Box small muted below={3}>
            {email} · {role}
          </Box>
          {isChanging ? (
            <Password onDone={() => setChanging(false)} />
          ) : (
            <Box below={2}>
              <Button color="secondary" sx={{ p: 0 }} onClick={() => setChanging(true)}>
                Change the password
              </Button>
            </Box>
          )}
          <Button variant="outlined" disabled={signOut.isPending} onClick={() => signOut.mutate()}>
            Sign out
          </Button>
        </Box>
      </Popover>
    </>
  );
}
