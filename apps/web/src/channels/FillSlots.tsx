/** For which goods a fill holds: all of them, one category of the channel, one market; which of several wins, and what it hides. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, type PlaceAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { count, plural } from '../design/words';
import { CategoryPick } from './CategoryPick';
import { type FillAt, forAll, isAt, keyOfAt, sayAt } from './fillAt';

export function FillSlots({
  place,
  attribute: { slots },
  at,
  onAt,
}: {
  place: PlaceAnswer | undefined;
  attribute: ChannelAttributeAnswer;
  at: FillAt;
  onAt: (at: FillAt) => void;
}) {
  const [isAdding, setAdding] = useState(false);
  const general = { ...forAll, names: [], presetName: null };
  const held = slots.find((slot) => isAt(slot, at));
  const params = { id: place?.id ?? 0 };
  const tree = useQuery({
    ...ask(api.channels.tree, { params }),
    enabled: place !== undefined && !held && at.category !== '',
  });
  const presets = useQuery({
    ...ask(api.channels.presets, { params }),
    enabled: place !== undefined && !held && at.preset !== null,
  });
  const shown = [
    ...(slots.some((slot) => isAt(slot, general)) ? [] : [{ ...general, goods: 0 }]),
    ...slots,
    ...(held || isAt(at, general)
      ? []
      : [
          {
            ...at,
            names: tree.data?.items.find(({ path }) => path === at.category)?.names ?? [],
            presetName:
              at.preset === null ? null : (presets.data?.items.find(({ id }) => id === at.preset)?.name ?? '…'),
            goods: 0,
          },
        ]),
  ];
  return (
    <Box below={3.5}>
      <Box row gap={2} wrap>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={keyOfAt(at)}
          aria-label="Goods it is for"
          onChange={(_, key: string | null) => {
            const chosen = shown.find((slot) => keyOfAt(slot) === key);
            if (chosen) onAt({ market: chosen.market, category: chosen.category, preset: chosen.preset });
          }}
        >
          {shown.map((slot) => (
            <ToggleButton key={keyOfAt(slot)} value={keyOfAt(slot)} sx={{ py: 0.3 }} title={slot.names.join(' / ')}>
              {sayAt(slot)} {count(slot.goods)}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {!isAdding && (
          <Button color="secondary" sx={{ p: 0 }} onClick={() => setAdding(true)}>
            Otherwise for some
          </Button>
        )}
      </Box>
      {held && slots.length > 1 && (
        <Box small muted above={1} role="status">
          {plural(held.goods, 'listing gets', 'listings get')} this
          {held.hidden > 0 &&
            `; for ${plural(held.hidden, 'listing')} more one of a preset or for fewer goods stands before it`}
          .
        </Box>
      )}
      {isAdding && (
        <NewSlot
          place={place}
          onDone={(next) => {
            setAdding(false);
            if (next) onAt(next);
          }}
        />
      )}
    </Box>
  );
}

/** A category, the market alone, a preset, or several of these: the fill that stands there first is the one that held until now. */
function NewSlot({ place, onDone }: { place: PlaceAnswer | undefined; onDone: (at?: FillAt) => void }) {
  const asked = { params: { id: place?.id ?? 0 } };
  const tree = useQuery({ ...ask(api.channels.tree, asked), enabled: place !== undefined });
  const presets = useQuery({ ...ask(api.channels.presets, asked), enabled: place !== undefined }).data?.items ?? [];
  const [preset, setPreset] = useState<number | null>(null);
  const [category, setCategory] = useState('');
  const [isHere, setHere] = useState(false);
  const at = { market: isHere ? (place?.market ?? '') : '', category, preset };
  const items = tree.data?.items ?? [];
  return (
    <Box row gap={3} above={2} align="center" wrap>
      <CategoryPick
        label="Goods in the channel’s category"
        isShown
        placeholder="any"
        width={300}
        options={items}
        value={items.find(({ path }) => path === category) ?? null}
        onPick={(path) => setCategory(path ?? '')}
      />
      {presets.length > 0 && (
        <TextField
          select
          label="By the preset"
          value={preset ?? ''}
          sx={{ width: 200 }}
          onChange={({ target }) => setPreset(target.value === '' ? null : Number(target.value))}
        >
          <MenuItem value="">none</MenuItem>
          {presets.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Box as="label" small row gap={1}>
        <input type="checkbox" checked={isHere} onChange={({ target }) => setHere(target.checked)} />
        in {place?.market ?? 'this market'} alone
      </Box>
      <Button variant="outlined" disabled={keyOfAt(at) === keyOfAt(forAll)} onClick={() => onDone(at)}>
        Say it for these
      </Button>
      <Button color="inherit" onClick={() => onDone()}>
        Cancel
      </Button>
    </Box>
  );
}
