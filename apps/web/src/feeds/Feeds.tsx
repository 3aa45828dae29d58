import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FeedAnswer, type PlaceAnswer, api } from '@velvet-shelf/contract';
import { Link, useNavigate } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox } from '../design/feedback';
import { DataTable } from '../design/DataTable';
import { State } from '../design/State';
import { clock, count } from '../design/words';

type Format = PlaceAnswer['formats'][number]['key'];

export function Feeds() {
  const feeds = useQuery(ask(api.feeds.list));
  const places = useQuery(ask(api.channels.places));
  const queries = useQueryClient();
  const navigate = useNavigate();
  const create = useMutation({
    mutationFn: (body: { placeId: number; format: Format }) => call(api.feeds.create, { body }),
    onSuccess: async (feed) => {
      void queries.invalidateQueries();
      await navigate(`/feeds/${feed.id}`);
    },
  });
  return (
    <Box as="section" scroll grow pad={[4.5, 6]}>
      <h1>Feeds</h1>
      <Box as="p" muted around={[0.5, 0, 3.5]}>
        A feed is built from the listings that are ready, stays at a stable secret address, and is fetched by the
        channel.
      </Box>
      <Box wrap row below={3.5}>
        {places.data?.items.flatMap((place) =>
          place.formats.map(({ key: format, label }) => (
            <Button
              key={`${place.id}${format}`}
              variant="outlined"
              disabled={create.isPending}
              onClick={() => create.mutate({ placeId: place.id, format })}
            >
              New {label} feed for {place.name}
            </Button>
          )),
        )}
      </Box>
      {create.error && <ProblemBox error={create.error} />}
      <Loaded query={feeds}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty title="No feed yet">Make one above; building it shows what goes out and what does not.</Empty>
          ) : (
            <DataTable
              label="Feeds"
              look={{ surface: 'card' }}
              rows={items}
              keyOf={({ id }) => id}
              columns={[
                {
                  head: 'Feed',
                  sortBy: ({ name }) => name,
                  cell: ({ id, name }) => <Link to={`/feeds/${id}`}>{name}</Link>,
                },
                { head: 'Up now', cell: (feed) => <UpNow feed={feed} /> },
                {
                  head: 'Items',
                  sortBy: (feed) => upOf(feed)?.counts?.sent,
                  cell: (feed) => sayCount(upOf(feed)?.counts?.sent),
                  look: { num: true },
                },
                {
                  head: 'Left out',
                  sortBy: (feed) => upOf(feed)?.counts?.leftOut,
                  cell: (feed) => sayCount(upOf(feed)?.counts?.leftOut),
                  look: { num: true },
                },
                {
                  head: 'The channel answered',
                  cell: (feed) => <Answered report={upOf(feed)?.report} />,
                  look: { small: true },
                },
                {
                  head: 'Last fetched',
                  sortBy: ({ fetches: [last] }) => last?.at,
                  cell: ({ fetches: [last] }) => (last ? `${clock(last.at)} by ${last.agent.slice(0, 24)}` : 'never'),
                  look: { small: true, muted: true },
                },
              ]}
            />
          )
        }
      </Loaded>
    </Box>
  );
}

/** The run whose file is served. */
const upOf = (feed: FeedAnswer) => feed.runs.find((run) => run.up);

const sayCount = (n: number | undefined) => (n === undefined ? '' : count(n));

function UpNow({ feed }: { feed: FeedAnswer }) {
  const up = upOf(feed);
  const held = feed.runs.find((run) => run.state === 'held' && run.id > (up?.id ?? 0));
  return (
    <>
      {up ? (
        <State is="live">
          run {up.id}, {clock(up.startedAt)}
        </State>
      ) : (
        <Box as="span" muted>
          nothing yet
        </Box>
      )}{' '}
      {held && <State is="held">run {held.id} held</State>}
    </>
  );
}

function Answered({ report }: { report: FeedAnswer['runs'][number]['report'] | undefined }) {
  if (!report)
    return (
      <Box as="span" muted>
        not yet
      </Box>
    );
  const { accepted, warned, refused, unanswered } = report;
  return `${accepted} accepted, ${warned} warned, ${refused} refused, ${unanswered} unanswered`;
}
