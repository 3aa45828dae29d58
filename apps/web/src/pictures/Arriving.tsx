/** The place where pictures are dropped, chosen or fetched from an address. */
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type PictureAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DropZone } from '../design/DropZone';
import { ProblemBox } from '../design/feedback';
import { count } from '../design/words';
import { pictureTypes, useSending } from './sending';

export function Arriving({
  hint,
  onCame,
}: {
  /** What becomes of them here. */
  hint: string;
  onCame: (pictures: readonly PictureAnswer[]) => void;
}) {
  const queries = useQueryClient();
  const [address, setAddress] = useState('');
  const sending = useSending(onCame);
  const fetching = useMutation({
    mutationFn: () => call(api.pictures.fetch, { body: { address: address.trim() } }),
    onSuccess: (picture) => {
      setAddress('');
      void queries.invalidateQueries();
      onCame([picture]);
    },
  });
  return (
    <DropZone
      many
      head="Drop pictures here"
      hint={hint}
      choose="Choose files"
      accept={pictureTypes}
      isBusy={sending.isBusy}
      onFiles={sending.send}
    >
      {sending.isBusy && (
        <Box above={1.5} role="status">
          <LinearProgress
            variant="determinate"
            value={sending.of === 0 ? 0 : (100 * sending.done) / sending.of}
            aria-label="Pictures sent"
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
