/** A value of its own for one listing: it stands before the fill until it is unpinned. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ListingAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { keyOf } from '../api/ask';
import { call } from '../api/call';
import { z } from 'zod';
import { Field, Form, useFields } from '../design/Form';
import { useTell } from '../design/feedback';

const pinFields = z.object({ text: z.string() });

type Value = ListingAnswer['values'][number];

export function Pin({ listing, value }: { listing: ListingAnswer; value: Value }) {
  const [isOpen, setOpen] = useState(false);
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
      setOpen(false);
    },
  });
  if (!isOpen)
    return (
      <Box row pad={[0, 0, 2, 31.5]}>
        <Button
          color="secondary"
          sx={{ p: 0 }}
          onClick={() => {
            setOver(value.pinned);
            setOpen(true);
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
  return <PinForm listing={listing} value={value} pin={pin} onCancel={() => setOpen(false)} />;
}

function PinForm({
  listing,
  value,
  pin,
  onCancel,
}: {
  listing: ListingAnswer;
  value: Value;
  pin: { mutate: (text: string) => void; isPending: boolean; error: unknown };
  onCancel: () => void;
}) {
  const form = useFields(pinFields, { text: value.pinned ?? '' });
  return (
    <Form
      form={form}
      onSend={({ text }) => pin.mutate(text)}
      onCancel={onCancel}
      error={pin.error}
      pad={[0.5, 0, 2.5, 31.5]}
    >
      <Field
        control={form.control}
        name="text"
        says={`${value.label} for this listing alone`}
        fullWidth
        autoFocus
        multiline={(value.value?.length ?? 0) > 60}
        maxRows={8}
      />
      <Box row above={1}>
        <Button type="submit" variant="contained" disabled={form.watch('text').trim() === '' || pin.isPending}>
          Pin
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
        <Box as="span" small muted>
          on {listing.place} only
        </Box>
      </Box>
    </Form>
  );
}
