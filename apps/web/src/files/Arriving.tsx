/** The place where pictures or other files are dropped, chosen or fetched from an address. */
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Box } from '../design/Box';
import { DropZone } from '../design/DropZone';
import { ProblemBox } from '../design/feedback';
import { count } from '../design/words';
import { useSending } from './sending';

/** How files of a kind come in. */
export interface WaysIn<Came> {
  /** What one of them is called: “picture”. */
  what: string;
  /** Kinds of files that the chooser shows. */
  accept?: string;
  send: (file: File) => Promise<Came>;
  fetch: (address: string) => Promise<Came>;
}

export function Arriving<Came>({
  ways,
  hint,
  onCame,
}: {
  ways: WaysIn<Came>;
  /** What becomes of them here. */
  hint: string;
  onCame: (came: readonly Came[]) => void;
}) {
  const queries = useQueryClient();
  const [address, setAddress] = useState('');
  const sending = useSending(ways.send, ways.what, onCame);
  const fetching = useMutation({
    mutationFn: () => ways.fetch(address.trim()),
    onSuccess: (came) => {
      setAddress('');
      void queries.invalidateQueries();
      onCame([came]);
    },
  });
  return (
    <DropZone
      many
      head={`Drop ${ways.what}s here`}
      hint={hint}
      choose="Choose files"
      {...(ways.accept === undefined ? {} : { accept: ways.accept })}
      isBusy={sending.isBusy}
      onFiles={sending.send}
    >
      {sending.isBusy && (
        <Box above={1.5} role="status">
          <LinearProgress
            variant="determinate"
            value={sending.of === 0 ? 0 : (100 * sending.done) / sending.of}
            aria-label={`${ways.what}s sent`}
          />
          <Box small muted>
            {count(sending.done)} of {count(sending.of)}
          </Box>
        </Box>
      )}
      {sending.refused.map(({ name, why }) => (
        <Box small tone="blocked" key={name} above={1}>
          {why.includes(name) ? why : `${name}: ${why}`}
        </Box>
      ))}
      {sending.error && <ProblemBox error={sending.error} />}
      <Box
        as="form"
        row
        above={2}
        onSubmit={(event) => {
          event.preventDefault();
          if (address.trim() !== '') fetching.mutate();
        }}
      >
        <TextField
          size="small"
          fullWidth
          label="Or an address to fetch one from"
          value={address}
          onChange={({ target }) => setAddress(target.value)}
        />
        <Button type="submit" variant="outlined" disabled={address.trim() === '' || fetching.isPending}>
          Fetch
        </Button>
      </Box>
      {fetching.error && <ProblemBox error={fetching.error} />}
    </DropZone>
  );
}
