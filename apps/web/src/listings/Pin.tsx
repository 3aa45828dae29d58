/** A value of its own for one listing: it stands before the fill until it is unpinned. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ListingAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { keyOf } from '../api/ask';
import { call } from '../api/call';
import { ProblemBox, useTell } from '../design/feedback';

type Value = ListingAnswer['values'][number];

export function Pin({ listing, value }: { listing: ListingAnswer; value: Value }) {
  const [draft, setDraft] = useState<string>();
  /** What was pinned when the editor was opened: a change by somebody else meanwhile is not written over unseen. */
  const [over, setOver] = useState(value.pinned);
  const queries = useQueryClient();
  const tell = useTell();
  const pin = useMutation({
    mutationFn: (text: string | null) =>
      call(api.listings.pin, {
        params: { id: listing.id, attribute: value.attribute },
        body: { text, madeAgainst: text === null ? value.pinned : over },
      }),
    onSuccess: (after, text) => {
      queries.setQueryData(keyOf(api.listings.listing, { params: { id: listing.id } }), after);
      void queries.invalidateQueries();
      tell(text === null ? `${value.label} follows its fill again` : `Pinned ${value.label} for this listing`);
      setDraft(undefined);
    },
  });
  if (draft === undefined)
    return (
      <Box row pad={[0, 0, 2, 31.5]}>
        <Button
          color="secondary"
          sx={{ p: 0 }}
          onClick={() => {
            setOver(value.pinned);
            setDraft(value.pinned ?? '');
          }}
        >
          {value.pinned === null ? 'Pin a value for this listing' : 'Change the pinned value'}
        </Button>
        {value.pinned !== null && (
          <Button color="secondary" sx={{ p: 0 }} disabled={pin.isPending} onClick={() => pin.mutate(null)}>
            Unpin
          </Button>
        )}
      </Box>
    );
  return (
    <Box
      as="form"
      pad={[0.5, 0, 2.5, 31.5]}

      onSubmit={(event) => {
        event.preventDefault();
        pin.mutate(draft);
      }}
      onKeyDown={(event) => event.key === 'Escape' && setDraft(undefined)}
    >
      <TextField
        fullWidth
        autoFocus
        multiline={(value.value?.length ?? 0) > 60}
        maxRows={8}
        value={draft}
        onChange={(event) => setDraft(event.target.value)}
        slotProps={{ htmlInput: { 'aria-label': `${value.label} for this listing alone` } }}
      />
      <Box row above={1}>
        <Button type="submit" variant="contained" disabled={draft.trim() === '' || pin.isPending}>
          Pin
        </Button>
        <Button color="inherit" onClick={() => setDraft(undefined)}>
          Cancel
        </Button>
        <Box as="span" small muted>
          on {listing.place} only
        </Box>
      </Box>
      {pin.error && <ProblemBox error={pin.error} />}
    </Box>
  );
}
