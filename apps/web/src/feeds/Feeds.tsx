import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FeedAnswer, type PlaceAnswer, api } from '@velvet-shelf/contract';
import { Link, useNavigate } from 'react-router';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { clock, count } from '../design/words';

type Format = PlaceAnswer['formats'][number]['key'];

export function Feeds() {
  const feeds = useQuery({ queryKey: ['feeds'], queryFn: () => call(api.feeds.list) });
  const places = useQuery({ queryKey: ['places'], queryFn: () => call(api.channels.places) });
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
            <Box as="table" surface="card" className="plain">
              <thead>
                <tr>
                  <th>Feed</th>
                  <th>Up now</th>
                  <Box as="th" num>
                    Items
                  </Box>
                  <Box as="th" num>
                    Left out
                  </Box>
                  <th>The channel answered</th>
                  <th>Last fetched</th>
                </tr>
              </thead>
              <tbody>
                {items.map((feed) => (
                  <Row key={feed.id} feed={feed} />
                ))}
              </tbody>
            </Box>
          )
        }
      </Loaded>
    </Box>
  );
}

function Row({ feed }: { feed: FeedAnswer }) {
  const up = feed.runs.find((run) => run.up);
  const held = feed.runs.find((run) => run.state === 'held' && run.id > (up?.id ?? 0));
  const [fetched] = feed.fetches;
  return (
    <tr>
      <td>
        <Link to={`/feeds/${feed.id}`}>{feed.name}</Link>
      </td>
      <td>
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
      </td>
      <Box as="td" num>
        {up?.counts && count(up.counts.sent)}
      </Box>
      <Box as="td" num>
        {up?.counts && count(up.counts.leftOut)}
      </Box>
      <Box as="td" small>
        {up?.report ? (
          `${up.report.accepted} accepted, ${up.report.warned} warned, ${up.report.refused} refused, ${up.report.unanswered} unanswered`
        ) : (
          <Box as="span" muted>
            not yet
          </Box>
        )}
      </Box>
      <Box as="td" small muted>
        {fetched ? `${clock(fetched.at)} by ${fetched.agent.slice(0, 24)}` : 'never'}
      </Box>
    </tr>
  );
}
