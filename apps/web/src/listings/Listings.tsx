/** Listings across places, and the one that is open. */
import { Box } from '../design/Box';
import { ShowMore } from '../design/ShowMore';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import { useInfiniteQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { askPages } from '../api/ask';
import { DataTable } from '../design/DataTable';
import { Drawer } from '../design/Drawer';
import { Empty, ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { SearchBox } from '../design/SearchBox';
import { plural } from '../design/words';
import { Listing } from './Listing';

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
  place: inAddress.number,
  search: inAddress.search,
  open: inAddress.number,
});

export function Listings() {
  const [{ readiness, channelState, cause, toSend, place, search, open }, set] = useAddress(listingsAddress);
  const list = useInfiniteQuery(
    askPages(api.listings.list, { query: { place, readiness, channelState, cause, toSend, search, limit: 100 } }),
  );
  const total = list.data?.pages[0]?.total;
  const rows = useMemo(() => list.data?.pages.flatMap(({ items }) => items) ?? [], [list.data]);
  return (
    <>
      <Box as="section" col grow pad={[3.5, 0, 0, 5]}>
        <Box row align="end" padRight={4}>
          <h1>Listings</h1>
          <Box as="span" grow muted padBottom={1}>
            {total !== undefined && plural(total, 'listing')}
          </Box>
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
                cell: ({ notFor, findings }) => {
                  const words = findings.map((finding) => finding.words).join('; ');
                  return (
                    <Box cut title={words}>
                      {notFor ?? words}
                    </Box>
                  );
                },
              },
            ]}
          />
          <ShowMore of={list} />
        </Box>
      </Box>
      {open !== undefined && (
        <Drawer label="Listing" onClose={() => set({ open: undefined })}>
          <Listing id={open} />
        </Drawer>
      )}
    </>
  );
}
