/** Listings across places, and the one that is open. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery } from '@tanstack/react-query';
import { type ListingRow, api } from '@velvet-shelf/contract';
import { useDeferredValue } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Drawer } from '../design/Drawer';
import { Empty, ProblemBox } from '../design/feedback';
import { State } from '../design/State';
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

export function Listings() {
  const [params, setParams] = useSearchParams();
  const set = (key: string, value: string | undefined) =>
    setParams((now) => {
      const next = new URLSearchParams(now);
      if (value) next.set(key, value);
      else next.delete(key);
      return next;
    });
  const readiness = (params.get('readiness') ?? undefined) as ListingRow['readiness'] | undefined;
  const channelState = params.get('channelState') ?? undefined;
  const cause = params.get('cause') ?? undefined;
  const toSend = params.get('toSend') === 'yes' ? 'yes' : undefined;
  const place = Number(params.get('place')) || undefined;
  const search = useDeferredValue(params.get('search') ?? '');
  const list = useInfiniteQuery({
    queryKey: ['listings', place, readiness, channelState, cause, toSend, search],
    queryFn: ({ pageParam }) =>
      call(api.listings.list, {
        query: { place, readiness, channelState, cause, toSend, search, cursor: pageParam, limit: 100 },
      }),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next ?? undefined,
  });
  const open = Number(params.get('open')) || undefined;
  const total = list.data?.pages[0]?.total;
  return (
    <>
      <Box as="section" col grow pad={[3.5, 0, 0, 5]}>
        <Box row align="end" padRight={4}>
          <h1>Listings</h1>
          <Box as="span" grow muted padBottom={1}>
            {total !== undefined && plural(total, 'listing')}
          </Box>
          <TextField
            placeholder="Search listings"
            value={params.get('search') ?? ''}
            onChange={(event) => set('search', event.target.value)}
            slotProps={{ htmlInput: { 'aria-label': 'Search listings' } }}
          />
        </Box>
        <Box wrap row around={[2.5, 0]}>
          {readinesses.map((row) => (
            <Chip
              key={row}
              size="small"
              label={row}
              variant={readiness === row ? 'filled' : 'outlined'}
              onClick={() => set('readiness', readiness === row ? undefined : row)}
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
              onClick={() => set('channelState', channelState === row ? undefined : row)}
            />
          ))}
          {toSend && (
            <>
              <Chip size="small" label="to send" onDelete={() => set('toSend', undefined)} />
              <Button component={Link} to="/feeds" size="small" variant="contained">
                Send them in a feed
              </Button>
            </>
          )}
          {cause && <Chip size="small" label={`cause: ${cause}`} onDelete={() => set('cause', undefined)} />}
        </Box>
        {list.error && <ProblemBox error={list.error} />}
        {total === 0 && <Empty title="No listing is like this">Take a filter away to see more.</Empty>}
        <Box grow scroll surface="card">
          <table className="plain">
            <thead>
              <tr>
                <th>SKU</th>
                <th>Title</th>
                <th>Place</th>
                <th>Fit to send</th>
                <th>On the channel</th>
                <th>Why</th>
              </tr>
            </thead>
            <tbody>
              {list.data?.pages.flatMap((page) =>
                page.items.map((listing) => (
                  <Box
                    as="tr"
                    choosable
                    chosen={listing.id === open}
                    key={listing.id}
                    onClick={() => set('open', String(listing.id))}
                  >
                    <Box as="td" oneLine>
                      <button type="button" className="value whole" onClick={() => set('open', String(listing.id))}>
                        {listing.sku ?? 'no SKU'}
                      </button>
                    </Box>
                    <Box as="td" maxWide={260}>
                      <Box cut title={listing.title ?? ''}>
                        {listing.title}
                      </Box>
                    </Box>
                    <Box as="td" muted oneLine>
                      {listing.place}
                    </Box>
                    <td>
                      <State is={listing.readiness} />
                    </td>
                    <td>
                      {listing.channelState === 'none' ? (
                        <Box as="span" muted>
                          never sent
                        </Box>
                      ) : (
                        <State is={listing.channelState} />
                      )}
                    </td>
                    <Box as="td" small maxWide={320}>
                      <Box cut title={listing.findings.map((finding) => finding.words).join('; ')}>
                        {listing.notFor ?? listing.findings.map((finding) => finding.words).join('; ')}
                      </Box>
                    </Box>
                  </Box>
                )),
              )}
            </tbody>
          </table>
          {list.hasNextPage && (
            <Button sx={{ m: 1 }} onClick={() => void list.fetchNextPage()}>
              Show more
            </Button>
          )}
        </Box>
      </Box>
      {open !== undefined && (
        <Drawer label="Listing" onClose={() => set('open', undefined)}>
          <Listing id={open} />
        </Drawer>
      )}
    </>
  );
}
