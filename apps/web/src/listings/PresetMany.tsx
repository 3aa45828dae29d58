/** Goods of all listings that are chosen, put into a preset of their channel or kept out of it; what it does is counted before it is done. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { plural, sayBecoming } from '../design/words';
import type { PinWhich } from './PinMany';

export function PresetMany({ which, placeId, onDone }: { which: PinWhich; placeId: number; onDone: () => void }) {
  const presets = useQuery(ask(api.channels.presets, { params: { id: placeId } })).data?.items ?? [];
  const [preset, setPreset] = useState<number>();
  const chosen = presets.find(({ id }) => id === preset);
  const tried = useQuery({
    ...ask(api.listings.tryPresetMany, { body: { which, preset: preset ?? 0, isIn: true } }),
    enabled: chosen !== undefined,
    retry: false,
    gcTime: 0,
  });
  const queries = useQueryClient();
  const tell = useTell();
  const save = useMutation({
    mutationFn: (isIn: boolean) => call(api.listings.presetMany, { body: { which, preset: preset ?? 0, isIn } }),
    onSuccess: (done, isIn) => {
      tell(`${plural(done.changed, 'listing')} ${isIn ? 'put in' : 'kept out'}; ${sayBecoming(done, true)}`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  if (presets.length === 0) return null;
  const error = save.error ?? (chosen ? tried.error : null);
  return (
    <Box as="section" aria-label="Preset of all that are chosen" surface="brass" pad={[1, 4, 2.5]}>
      {error && <ProblemBox error={error} />}
      <Box row wrap>
        <Box small grow role="status">
          {chosen &&
            tried.data &&
            `${plural(tried.data.changed, 'listing')} would be put in, ${sayBecoming(tried.data)}`}
        </Box>
        <TextField
          select
          label="Preset"
          value={preset ?? ''}
          sx={{ width: 190 }}
          onChange={({ target }) => setPreset(Number(target.value))}
        >
          {presets.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <Button variant="outlined" disabled={!chosen || save.isPending} onClick={() => save.mutate(true)}>
          Put into it
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          disabled={!chosen || save.isPending}
          onClick={() => save.mutate(false)}
        >
          Keep out of it
        </Button>
      </Box>
    </Box>
  );
}
