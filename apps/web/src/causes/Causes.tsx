/** Causes: ranked at the left, the fix itself at the right. From top to bottom is clearing a desk. */
import { Box } from '../design/Box';
import Chip from '@mui/material/Chip';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { type CauseAnswer, api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { Empty, Loaded } from '../design/feedback';
import { count, plural } from '../design/words';
import { CauseFix } from './CauseFix';

const kinds: Record<CauseAnswer['kind'], string> = {
  'map-category': 'category map',
  fill: 'fill',
  translate: 'value translation',
  fit: 'value does not fit',
  catalog: 'catalog',
  report: 'channel’s answer',
  pin: 'pinned value',
  axis: 'variants alike',
  assortment: 'more than it takes',
};

const causesAddress = z.object({
  show: z.enum(['blockers', 'advice']).default('blockers'),
  order: z.enum(['frees', 'touched']).default('frees'),
  cause: inAddress.text,
  place: inAddress.number,
});

export function Causes() {
  const [{ show: severity, order, cause, place }, set] = useAddress(causesAddress);
  const causes = useQuery(ask(api.causes.ranked, { query: place === undefined ? {} : { place: String(place) } }));
  const places = useQuery(ask(api.channels.places)).data?.items ?? [];
  return (
    <Loaded query={causes}>
      {(data) => {
        const base = severity === 'advice' ? data.advice : data.items;
        const list = order === 'touched' ? [...base].sort((a, b) => b.touched - a.touched) : base;
        const chosen = list.find((row) => row.key === cause) ?? list[0];
        const index = chosen ? list.indexOf(chosen) : -1;
        const planned = data.plan.at(-1);
        const most = Math.max(1, ...list.map((row) => row.touched));
        return (
          <>
            <Box as="section" col wide={540} fixed line="right">
              <Box pad={[4.5, 5, 2.5]}>
                <h1>
                  {data.blocked > 0 ? `${plural(data.blocked, 'listing')} cannot go out` : 'Every listing can go out'}
                </h1>
                <Box muted>
                  {plural(data.items.length, 'cause')}.
                  {planned && ` The best ${data.plan.length} together free ${count(planned.freed)}.`}
                </Box>
              </Box>
              {places.length > 1 && (
                <Box pad={[0, 5, 2.5]}>
                  <TextField
                    select
                    size="small"
                    fullWidth
                    label="At"
                    value={place ?? ''}
                    onChange={({ target }) =>
                      set({ place: target.value === '' ? undefined : Number(target.value), cause: undefined })
                    }
                    slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
                  >
                    <MenuItem value="">all places together</MenuItem>
                    {places.map(({ id, name }) => (
                      <MenuItem key={id} value={id}>
                        {name}
                      </MenuItem>
                    ))}
                  </TextField>
                </Box>
              )}
              <Box row pad={[0, 5, 2.5]} gap={1.5}>
                <Chip
                  label="What frees most"
                  variant={order === 'frees' ? 'filled' : 'outlined'}
                  onClick={() => set({ order: undefined, cause: undefined })}
                />
                <Chip
                  label="What touches most"
                  variant={order === 'touched' ? 'filled' : 'outlined'}
                  onClick={() => set({ order: 'touched', cause: undefined })}
                />
                <Box as="span" grow />
                <Chip
                  label={`Blockers ${data.items.length}`}
                  variant={severity === 'blockers' ? 'filled' : 'outlined'}
                  onClick={() => set({ show: undefined, cause: undefined })}
                />
                <Chip
                  label={`Advice ${data.advice.length}`}
                  variant={severity === 'advice' ? 'filled' : 'outlined'}
                  onClick={() => set({ show: 'advice', cause: undefined })}
                />
              </Box>
              <Box as="ol" grow scroll unmarked aria-label="Causes">
                {list.map((row, i) => (
                  <li key={row.key}>
                    <button
                      type="button"
                      className="cause"
                      aria-current={row.key === chosen?.key}
                      onClick={() => set({ cause: row.key })}
                    >
                      <Box as="span" muted serif wide={22} toRight>
                        {i + 1}
                      </Box>
                      <Box as="span" grow>
                        <Box as="span" textSize={14}>
                          {row.words}
                        </Box>
                        <Box as="span" small muted block around={[0.5, 0, 1.5]}>
                          <span className="tag">{kinds[row.kind]}</span> {row.places.join(' · ')}
                        </Box>
                        <span className="gauge">
                          <Box as="i" wide={`${(100 * row.touched) / most}%`} />
                          <Box as="u" wide={`${(100 * row.unlocks) / most}%`} />
                        </span>
                      </Box>
                      <Box as="span" wide={84} toRight>
                        <Box as="b" serif textSize={20}>
                          {count(severity === 'advice' ? row.touched : row.unlocks)}
                        </Box>
                        <Box as="span" block textSize={11.5}>
                          {severity === 'advice' ? 'touched' : 'unlocked'}
                        </Box>
                        {severity !== 'advice' && (
                          <Box as="span" muted textSize={11}>
                            of {count(row.touched)} touched
                          </Box>
                        )}
                      </Box>
                    </button>
                  </li>
                ))}
                {list.length === 0 && (
                  <Empty title="This desk is clear">Nothing is blocked. Build the feed and send it.</Empty>
                )}
              </Box>
            </Box>
            {chosen && (
              <CauseFix
                key={chosen.key}
                cause={chosen}
                position={`Cause ${index + 1} of ${list.length} · ${kinds[chosen.kind]} · ${chosen.places.join('; ')}`}
                onNext={() => set({ cause: list[index + 1]?.key })}
              />
            )}
          </>
        );
      }}
    </Loaded>
  );
}
