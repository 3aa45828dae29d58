/** Something taken away for good: what goes with it is said first, and a refusal tells why it stays. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Box } from './Box';
import { useTell } from './feedback';

export function Removal({
  of,
  goes,
  verb = 'Remove',
  remove,
  onDone,
}: {
  /** Its name. */
  of: string;
  /** What goes with it, as a sentence; only asked for once the button is pressed. */
  goes: ReactNode;
  verb?: string;
  remove: () => Promise<unknown>;
  onDone?: () => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const [isAsked, setAsked] = useState(false);
  const removal = useMutation({
    mutationFn: remove,
    onSuccess: () => {
      tell(`${of} is gone`);
      onDone?.();
      void queries.invalidateQueries();
    },
    onError: (error) => {
      setAsked(false);
      tell(error.message, 'error');
    },
  });
  if (!isAsked)
    return (
      <Button color="inherit" aria-label={`${verb} ${of}`} onClick={() => setAsked(true)}>
        {verb}
      </Button>
    );
  return (
    <Box row wrap role="status">
      <Box as="span" small>
        {goes}
      </Box>
      <Button
        variant="outlined"
        color="error"
        aria-label={`${verb} ${of}`}
        disabled={removal.isPending}
        onClick={() => removal.mutate()}
      >
        {verb}
      </Button>
      <Button color="inherit" onClick={() => setAsked(false)}>
        Keep it
      </Button>
    </Box>
  );
}
