/** One value pinned for all listings that are chosen, or let go; what it does is counted before it is done. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { ChannelValue } from '../channels/ChannelValue';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { useSettled } from '../design/settled';
import { plural, sayBecoming } from '../design/words';

type Body = z.output<typeof api.listings.pinMany.body>;
export type PinWhich = Body['which'];

export function PinMany({
  which,
  count,
  placeId,
  onDone,
}: {
  which: PinWhich;
  count: number;
  /** Where all of them are; without it there is no attribute to choose. */
  placeId: number | undefined;
  onDone: () => void;
}) {
  const [key, setKey] = useState('');
  const [text, setText] = useState('');
  const columns = useQuery({ ...ask(api.sheet.columns), staleTime: 300_000 });
  const attributes = (columns.data?.items ?? []).flatMap(({ pin }) => (pin && pin.placeId === placeId ? pin : []));
  const attribute = attributes.find((pin) => pin.key === key);
  const body: Body = { which, attribute: key, text };
  const settled = useSettled(body);
  const isSaid = attribute !== undefined && text !== '';
  const tried = useQuery({
    ...ask(api.listings.tryPins, { body: settled }),
    enabled: isSaid && settled.text !== '' && settled.attribute !== '',
    retry: false,
    gcTime: 0,
  });
  const queries = useQueryClient();
  const tell = useTell();
  const save = useMutation({
    mutationFn: (to: string | null) => call(api.listings.pinMany, { body: { ...body, text: to } }),
    onSuccess: (done, to) => {
      tell(`${plural(done.changed, 'listing')} ${to === null ? 'unpinned' : 'pinned'}; ${sayBecoming(done, true)}`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  const error = save.error ?? (isSaid ? tried.error : null);
  return (
    <Box as="section" aria-label="All that are chosen" surface="brass" pad={[2.5, 4]} line="top">
      {error && <ProblemBox error={error} />}
      <Box row wrap>
        <Box serif textSize={17} grow role="status">
          {plural(count, 'listing')} chosen
          {isSaid && tried.data && ` · ${plural(tried.data.changed, 'value')} pinned, ${sayBecoming(tried.data)}`}
          {isSaid && tried.data && tried.data.same > 0 && ` · ${plural(tried.data.same, 'listing')} so already`}
        </Box>
        {placeId === undefined ? (
          <Box small muted>
            Choose a place above to pin a value for all of them.
          </Box>
        ) : (
          <>
            <TextField
              select
              label="Attribute"
              value={attribute ? key : ''}
              onChange={({ target }) => {
                setKey(target.value);
                setText('');
              }}
              sx={{ width: 190 }}
            >
              {attributes.map((row) => (
                <MenuItem key={row.key} value={row.key}>
                  {row.label}
                </MenuItem>
              ))}
            </TextField>
            {attribute && (
              <ChannelValue
                attribute={{ values: attribute.values ?? null }}
                label="Value for all"
                width={210}
                value={text}
                onChange={setText}
              />
            )}
            <Button
              variant="outlined"
              color="inherit"
              disabled={!attribute || save.isPending}
              onClick={() => save.mutate(null)}
            >
              Let them follow their fill
            </Button>
            <Button variant="contained" disabled={!isSaid || save.isPending} onClick={() => save.mutate(text)}>
              Pin for {plural(count, 'listing')}
            </Button>
          </>
        )}
        <Button color="inherit" onClick={onDone}>
          Choose none
        </Button>
      </Box>
    </Box>
  );
}
