/** A value of its own for one listing: it stands before the fill until it is unpinned. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ListingAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
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
      queries.setQueryData(['listing', listing.id], after);
      void queries.invalidateQueries();
      tell(text === null ? `${value.label} follows its fill again` : `Pinned ${value.label} for this listing`);
      setDraft(undefined);
    },
  });
  if (draft === undefined)
    return (
      <div className="row" style={{ padding: '0 0 8px 126px' }}>
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
      </div>
    );
  return (
    <form
      style={{ padding: '2px 0 10px 126px' }}
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
      <div className="row" style={{ marginTop: 4 }}>
        <Button type="submit" variant="contained" disabled={draft.trim() === '' || pin.isPending}>
          Pin
        </Button>
        <Button color="inherit" onClick={() => setDraft(undefined)}>
          Cancel
        </Button>
        <span className="muted small">on {listing.place} only</span>
      </div>
      {pin.error && <ProblemBox error={pin.error} />}
    </form>
  );
}
