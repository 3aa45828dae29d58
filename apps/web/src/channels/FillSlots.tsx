/** For which goods a fill holds: all of them, one category of the channel, one market; which of several wins, and what it hides. */
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, type PlaceAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { count, plural } from '../design/words';
import { CategoryPick } from './CategoryPick';

export interface FillAt {
  market: string;
  category: string;
}
type Slot = ChannelAttributeAnswer['slots'][number];

export const isAt = (slot: FillAt, { market, category }: FillAt): boolean =>
  slot.market === market && slot.category === category;

const keyOf = ({ market, category }: FillAt) => JSON.stringify([market, category]);

const sayAt = ({ market, category, names }: Pick<Slot, 'market' | 'category' | 'names'>): string =>
  `${category === '' ? 'All goods' : (names.at(-1) ?? category)}${market === '' ? '' : `, ${market} alone`}`;

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
  const general = { market: '', category: '', names: [] };
  const held = slots.find((slot) => isAt(slot, at));
  const isNew = !held && at.category !== '';
  const tree = useQuery({
    ...ask(api.channels.tree, { params: { id: place?.id ?? 0 } }),
    enabled: place !== undefined && isNew,
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
          value={keyOf(at)}
          aria-label="Goods it is for"
          onChange={(_, key: string | null) => {
            const chosen = shown.find((slot) => keyOf(slot) === key);
            if (chosen) onAt({ market: chosen.market, category: chosen.category });
          }}
        >
          {shown.map((slot) => (
            <ToggleButton key={keyOf(slot)} value={keyOf(slot)} sx={{ py: 0.3 }} title={slot.names.join(' / ')}>
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
            `; for ${plural(held.hidden, 'listing')} more one that is said for fewer goods stands before it`}
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

/** A category or the market alone, or both: the fill that stands there first is the one that held until now. */
function NewSlot({ place, onDone }: { place: PlaceAnswer | undefined; onDone: (at?: FillAt) => void }) {
  const tree = useQuery({
    ...ask(api.channels.tree, { params: { id: place?.id ?? 0 } }),
    enabled: place !== undefined,
  });
  const [category, setCategory] = useState('');
  const [isHere, setHere] = useState(false);
  const at = { market: isHere ? (place?.market ?? '') : '', category };
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
      <Box as="label" small row gap={1}>
        <input type="checkbox" checked={isHere} onChange={({ target }) => setHere(target.checked)} />
        in {place?.market ?? 'this market'} alone
      </Box>
      <Button variant="outlined" disabled={category === '' && !isHere} onClick={() => onDone(at)}>
        Say it for these
      </Button>
      <Button color="inherit" onClick={() => onDone()}>
        Cancel
      </Button>
    </Box>
  );
}
