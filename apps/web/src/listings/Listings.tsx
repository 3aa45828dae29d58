/** Listings across places, and the one that is open. */
import { Box } from '../design/Box';
import { ShowMore } from '../design/ShowMore';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { type ListingRow, api } from '@velvet-shelf/contract';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask, askPages } from '../api/ask';
import { useChoosing } from '../catalog/choosing';
import { DataTable } from '../design/DataTable';
import { Drawer } from '../design/Drawer';
import { Empty, ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { SearchBox } from '../design/SearchBox';
import { plural } from '../design/words';
import { Listing } from './Listing';
import { PinMany, type PinWhich } from './PinMany';
import { PresetMany } from './PresetMany';

const readinesses = ['ready', 'blocked', 'not for this channel'] as const;
const states = [
  ['live', 'live'],
  ['sent', 'unanswered'],
  ['refused', 'refused'],
  ['withdrawn', 'withdrawn'],
  ['none', 'never sent'],
] as const;

const listingsAddress = z.object({
  readiness: z.enum(readinesses).optional(),
  channelState: z.enum(states.map(([state]) => state)).optional(),
  cause: inAddress.text,
  toSend: z.literal('yes').optional(),
  pinned: z.literal('yes').optional(),
  place: inAddress.number,
  search: inAddress.search,
  open: inAddress.number,
});

export function Listings() {
  const [{ readiness, channelState, cause, toSend, pinned, place, search, open }, set] = useAddress(listingsAddress);
  const filter = { place, readiness, channelState, cause, toSend, pinned, search };
  const list = useInfiniteQuery(askPages(api.listings.list, { query: { ...filter, limit: 100 } }));
  const places = useQuery(ask(api.channels.places)).data?.items ?? [];
  const choosing = useChoosing(JSON.stringify(filter), 'all');
  const { chosen } = choosing;
  const which: PinWhich | undefined =
    chosen && ('rows' in chosen ? { ids: chosen.rows } : { all: filter, except: chosen.except });
  const total = list.data?.pages[0]?.total;
  const rows = useMemo(() => list.data?.pages.flatMap(({ items }) => items) ?? [], [list.data]);
  const chosenPlace = place ?? (which && 'ids' in which ? onePlace(rows, which.ids) : undefined);
  return (
    <>
      <Box as="section" col grow pad={[3.5, 0, 0, 5]}>
        <Box row align="end" padRight={4}>
          <h1>Listings</h1>
          <Box as="span" grow muted padBottom={1}>
            {total !== undefined && plural(total, 'listing')}
          </Box>
          <TextField
            select
            size="small"
            label="Place"
            value={places.some(({ id }) => id === place) ? String(place) : ''}
            onChange={({ target }) => set({ place: target.value === '' ? undefined : Number(target.value) })}
            sx={{ width: 200, mr: 1.5 }}
          >
            <MenuItem value="">all places</MenuItem>
            {places.map(({ id, name }) => (
              <MenuItem key={id} value={String(id)}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          <SearchBox
            label="Search listings"
            value={search}
            onSearch={(text) => set({ search: text }, { replace: true })}
          />
        </Box>
        <Box wrap row around={[2.5, 0]}>
          {readinesses.map((row) => (
            <Chip
              key={row}
              size="small"
              label={row}
              variant={readiness === row ? 'filled' : 'outlined'}
              onClick={() => set({ readiness: readiness === row ? undefined : row })}
            />
          ))}
          <Box as="span" muted>
            │
          </Box>
          {states.map(([row, word]) => (
            <Chip
              key={row}
              size="small"
              label={word}
              variant={channelState === row ? 'filled' : 'outlined'}
              onClick={() => set({ channelState: channelState === row ? undefined : row })}
            />
          ))}
          <Chip
            size="small"
            label="pinned"
            variant={pinned ? 'filled' : 'outlined'}
            onClick={() => set({ pinned: pinned ? undefined : 'yes' })}
          />
          {toSend && (
            <>
              <Chip size="small" label="to send" onDelete={() => set({ toSend: undefined })} />
              <Button component={Link} to="/feeds" size="small" variant="contained">
                Send them in a feed
              </Button>
            </>
          )}
          {cause && <Chip size="small" label={`cause: ${cause}`} onDelete={() => set({ cause: undefined })} />}
        </Box>
        {list.error && <ProblemBox error={list.error} />}
        {total === 0 && <Empty title="No listing is like this">Take a filter away to see more.</Empty>}
        <Box grow scroll surface="card">
          <DataTable
            label="Listings"
            rows={rows}
            keyOf={({ id }) => id}
            chosen={open}
            onChoose={({ id }) => set({ open: id })}
            columns={[
              {
                head: (
                  <input
                    type="checkbox"
                    aria-label="Choose all that match"
                    checked={choosing.isAll}
                    onChange={({ target }) => (target.checked ? choosing.all() : choosing.none())}
                  />
                ),
                id: 'Chosen',
                headLook: { wide: 36 },
                cell: ({ id, sku }) => (
                  <input
                    type="checkbox"
                    aria-label={`Choose ${sku ?? 'no SKU'}`}
                    checked={choosing.isChosen({ id, familyId: null })}
                    onClick={(event) => event.stopPropagation()}
                    onChange={({ target }) => choosing.toggle([id], target.checked)}
                  />
                ),
              },
              {
                head: 'SKU',
                look: { oneLine: true },
                cell: ({ sku }) => (
                  <button type="button" className="value whole">
                    {sku ?? 'no SKU'}
                  </button>
                ),
              },
              {
                head: 'Title',
                look: { maxWide: 260 },
                cell: ({ title }) => (
                  <Box cut title={title ?? ''}>
                    {title}
                  </Box>
                ),
              },
              { head: 'Place', cell: (listing) => listing.place, look: { muted: true, oneLine: true } },
              { head: 'Fit to send', cell: (listing) => <State is={listing.readiness} /> },
              {
                head: 'On the channel',
                cell: (listing) =>
                  listing.channelState === 'none' ? (
                    <Box as="span" muted>
                      never sent
                    </Box>
                  ) : (
                    <State is={listing.channelState} />
                  ),
              },
              {
                head: 'Why',
                look: { small: true, maxWide: 320 },
                cell: ({ notFor, findings, pinned: pins }) => {
                  const words = findings.map((finding) => finding.words).join('; ');
                  return (
                    <>
                      <Box cut title={words}>
                        {notFor ?? words}
                      </Box>
                      {pins.length > 0 && <Box muted>pinned: {pins.join(', ')}</Box>}
                    </>
                  );
                },
              },
            ]}
          />
          <ShowMore of={list} />
        </Box>
        {which && (
          <>
            <PinMany
              which={which}
              count={'ids' in which ? which.ids.length : Math.max(0, (total ?? 0) - which.except.length)}
              placeId={chosenPlace}
              onDone={choosing.none}
            />
            {chosenPlace !== undefined && <PresetMany which={which} placeId={chosenPlace} onDone={choosing.none} />}
          </>
        )}
      </Box>
      {open !== undefined && (
        <Drawer label="Listing" onClose={() => set({ open: undefined })}>
          <Listing id={open} />
        </Drawer>
      )}
    </>
  );
}

/** The place all of the chosen rows are at, where it is one. */
function onePlace(rows: readonly ListingRow[], ids: readonly number[]): number | undefined {
  const places = new Set(rows.flatMap(({ id, placeId }) => (ids.includes(id) ? [placeId] : [])));
  return places.size === 1 ? [...places][0] : undefined;
}
