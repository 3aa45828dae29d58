/** One feed: its address, its runs, the balance of the run that is looked at, what was left out, what the channel said. */
import { Box } from '../design/Box';
import { Meter } from '../design/Meter';
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FeedAnswer, type RunAnswer, api } from '@velvet-shelf/contract';
import { useEffect, useRef } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { DataTable } from '../design/DataTable';
import { Removal } from '../design/Removal';
import { State } from '../design/State';
import { bytes, clock, count, plural } from '../design/words';
import { Balance } from './Balance';

const feedAddress = z.object({ run: inAddress.number, tab: z.string().default('left-out') });

export function Feed() {
  const id = Number(useParams().id);
  const feed = useQuery({
    ...ask(api.feeds.feed, { params: { id } }),
    refetchInterval: (query) => (query.state.data?.runs.some(isUnderWay) ? 400 : false),
  });
  return <Loaded query={feed}>{(data) => <Page feed={data} />}</Loaded>;
}

/** A run whose figures move: it is being built, or the channel is reading it. */
const isUnderWay = ({ state, asked }: RunAnswer) => state === 'running' || asked?.state === 'reading';

function Page({ feed }: { feed: FeedAnswer }) {
  const [address, set] = useAddress(feedAddress);
  const queries = useQueryClient();
  const tell = useTell();
  const navigate = useNavigate();
  const params = { id: feed.id };
  const refresh = () => queries.invalidateQueries();
  const build = useMutation({ mutationFn: () => call(api.feeds.build, { params }), onSuccess: refresh });
  const offer = useMutation({
    mutationFn: () => call(api.feeds.offer, { params }),
    onSuccess: refresh,
  });
  const isBuilding = build.isPending || feed.runs[0]?.state === 'running';
  const run = feed.runs.find((run) => run.id === address.run) ?? feed.runs[0];
  const up = feed.runs.find((run) => run.up);
  const asked = up?.asked ?? null;
  const isReading = asked?.state === 'reading';
  useAnswer(isReading, up?.report ?? null);
  const error = build.error ?? offer.error ?? (asked?.state === 'failed' ? asked.error : null);
  return (
    <Box as="section" col grow>
      <Box pad={[3.5, 6, 2.5]}>
        <Box small muted>
          <Link to="/feeds">Feeds</Link> · {feed.place}
        </Box>
        <Box row gap={3}>
          <Box as="h1" grow>
            {feed.name}
          </Box>
          <Removal
            of={feed.name}
            goes="Its runs and their files go with it, for good."
            remove={() => call(api.feeds.remove, { params })}
            onDone={() => void navigate('/feeds')}
          />
          <Button variant="outlined" disabled={isBuilding} onClick={() => build.mutate()}>
            Build now
          </Button>
          <Button
            variant="contained"
            disabled={!up || isBuilding || isReading || offer.isPending}
            onClick={() => offer.mutate()}
          >
            {isReading ? sayReading(asked) : 'Ask the channel to fetch it'}
          </Button>
        </Box>
        <Box small row above={1.5}>
          <Box as="span" muted>
            Its address
          </Box>
          <Box as="code" cut surface="band" pad={[0.5, 2]} rounded maxWide={560} title={feed.address}>
            {feed.address}
          </Box>
          <Button
            color="secondary"
            sx={{ p: 0, minWidth: 0 }}
            onClick={() =>
              void navigator.clipboard.writeText(feed.address).then(() => tell('The address is on the clipboard'))
            }
          >
            Copy
          </Button>
          {up ? (
            <Box as="span" muted>
              serves run {up.id}, {bytes(up.bytes ?? 0)}, {bytes(up.gzipBytes ?? 0)} packed
            </Box>
          ) : (
            <Box as="span" muted>
              serves nothing until a run is done
            </Box>
          )}
        </Box>
        {error && <ProblemBox error={error} />}
      </Box>
      {run ? (
        <Box grow row align="stretch" gap={0} minHigh={0} line="top">
          <Runs feed={feed} chosen={run.id} onChoose={(id) => set({ run: id, tab: undefined })} />
          <Run key={run.id} run={run} tab={address.tab} onTab={(tab) => set({ run: run.id, tab })} onChange={refresh} />
        </Box>
      ) : (
        <Empty title="Not built yet">Build it: you see what goes out and what does not before any channel does.</Empty>
      )}
    </Box>
  );
}

const sayReading = ({ done, total }: NonNullable<RunAnswer['asked']>) =>
  total > 0 ? `The channel is reading: ${count(done)} of ${count(total)}` : 'The channel is reading…';

/** Tells what the channel answered, once it has while somebody looks. */
function useAnswer(isReading: boolean, report: RunAnswer['report']) {
  const tell = useTell();
  const wasReading = useRef(isReading);
  useEffect(() => {
    if (wasReading.current && !isReading && report)
      tell(
        `The channel answered: ${count(report.accepted + report.warned)} taken, ${count(report.refused)} refused, ${count(report.unanswered)} unanswered`,
      );
    wasReading.current = isReading;
  }, [isReading, report, tell]);
}

function Runs({ feed, chosen, onChoose }: { feed: FeedAnswer; chosen: number; onChoose: (id: number) => void }) {
  return (
    <Box scroll wide={300} fixed line="right">
      <Box as="h3" pad={[2.5, 4, 1, 6]}>
        Runs
      </Box>
      {feed.runs.map((run) => (
        <Box
          as="button"
          padLeft={5}
          key={run.id}
          type="button"
          className="cause"
          aria-current={run.id === chosen}
          onClick={() => onChoose(run.id)}
        >
          <Box as="span" grow>
            <b>Run {run.id}</b>{' '}
            <Box as="span" small muted>
              {clock(run.startedAt)}
            </Box>
            <Box as="span" small muted block>
              {run.counts ? `${count(run.counts.sent)} items` : ''}{' '}
              {run.difference && run.difference.before > 0
                ? `+${run.difference.added} −${run.difference.removed} ~${run.difference.changed}`
                : ''}
            </Box>
          </Box>
          <State is={run.up ? 'live' : run.state}>{run.up ? 'up' : run.state}</State>
        </Box>
      ))}
      <Box as="h3" pad={[4, 4, 1, 6]}>
        Fetched
      </Box>
      {feed.fetches.length === 0 && (
        <Box as="p" small muted pad={[0, 6]}>
          Nobody has fetched it yet.
        </Box>
      )}
      {feed.fetches.slice(0, 8).map((fetched, i) => (
        <Box small row pad={[1, 4, 1, 6]} key={i}>
          <Box as="span" muted>
            {clock(fetched.at)}
          </Box>
          <Box as="span" cut grow>
            {fetched.agent}
          </Box>
          <span>{fetched.status}</span>
        </Box>
      ))}
    </Box>
  );
}

function Run({
  run,
  tab,
  onTab,
  onChange,
}: {
  run: RunAnswer;
  tab: string;
  onTab: (tab: string) => void;
  onChange: () => void;
}) {
  const tell = useTell();
  const release = useMutation({
    mutationFn: () => call(api.feeds.release, { params: { id: run.id } }),
    onSuccess: () => {
      tell(`Run ${run.id} is up`);
      onChange();
    },
  });
  if (run.state === 'running')
    return (
      <Box pad={6} role="status">
        <h2>Building</h2>
        <Box around={[2.5, 0]}>
          <Meter
            percent={run.progress && run.progress.total > 0 ? (100 * run.progress.done) / run.progress.total : 0}
            label="Building"
            wide={300}
          />
        </Box>
        {count(run.progress?.done ?? 0)} of {plural(run.progress?.total ?? 0, 'listing')}
      </Box>
    );
  return (
    <Box col grow surface="card">
      <Box pad={[3, 6, 0]}>
        {run.heldWhy && run.state === 'held' && (
          <Box row surface="held" rounded pad={[2, 3]} below={2.5}>
            <State is="held">Held</State>
            <Box as="span" grow>
              {run.heldWhy}. The file before it is still up.
            </Box>
            <Button variant="contained" disabled={release.isPending} onClick={() => release.mutate()}>
              Release it
            </Button>
          </Box>
        )}
        {run.error && <ProblemBox error={run.error} />}
        {release.error && <ProblemBox error={release.error} />}
        {run.counts && <Balance run={run} counts={run.counts} />}
        <Box row>
          <Tabs value={tab} onChange={(_, to: string) => onTab(to)} sx={{ flex: 1 }}>
            <Tab value="left-out" label={`Left out ${count(run.counts?.leftOut ?? 0)}`} />
            <Tab value="report" label="The channel’s report" disabled={!run.report} />
          </Tabs>
          {run.state === 'done' && !run.up && (
            <Button color="secondary" disabled={release.isPending} onClick={() => release.mutate()}>
              Put this run up again
            </Button>
          )}
          {run.bytes !== null && (
            <Button color="secondary" href={`/api/runs/${run.id}/file`}>
              Download
            </Button>
          )}
        </Box>
      </Box>
      <Box grow scroll pad={[1.5, 6, 5]}>
        {tab === 'report' && run.report ? <Report run={run} /> : <LeftOut run={run} />}
      </Box>
    </Box>
  );
}

function LeftOut({ run }: { run: RunAnswer }) {
  const left = useQuery(ask(api.feeds.leftOut, { params: { id: run.id } }, run.state));
  return (
    <Loaded query={left}>
      {({ groups }) =>
        groups.length === 0 ? (
          <Box as="p" muted>
            Nothing was left out.
          </Box>
        ) : (
          <DataTable
            label="Left out"
            rows={groups}
            keyOf={({ words }) => words}
            columns={[
              {
                head: 'Listings',
                sortBy: ({ listings }) => listings,
                cell: ({ listings }) => count(listings),
                look: { serif: true, num: true, textSize: 16 },
              },
              { head: 'Left out because', cell: ({ words }) => words },
              {
                head: 'For example',
                look: { muted: true, small: true, maxWide: 330 },
                cell: ({ examples }) =>
                  examples.slice(0, 2).map((example) => (
                    <Box cut key={example.listingId}>
                      <Link className="plain" to={`/listings?open=${example.listingId}`}>
                        {example.sku} {example.title}
                      </Link>
                    </Box>
                  )),
              },
              {
                head: '',
                id: 'fix',
                cell: ({ cause }) => cause && <Link to={`/causes?cause=${encodeURIComponent(cause)}`}>Fix</Link>,
              },
            ]}
          />
        )
      }
    </Loaded>
  );
}

const worst = ['refused', 'warned', 'unanswered', 'accepted'] as const;

type ReportItem = z.output<typeof api.feeds.report.answer>['items'][number];

/** What somebody has to look at comes before what is well. */
const worstFirst = (items: readonly ReportItem[]) =>
  worst.flatMap((is) => items.filter(({ outcome }) => outcome === is));

function Report({ run }: { run: RunAnswer }) {
  const report = useQuery(ask(api.feeds.report, { params: { id: run.id } }, run.report?.id));
  return (
    <Loaded query={report}>
      {({ items }) => (
        <DataTable
          label="The channel’s report"
          rows={worstFirst(items)}
          keyOf={({ itemKey }) => itemKey}
          columns={[
            {
              head: 'Item',
              sortBy: ({ itemKey }) => itemKey,
              look: { oneLine: true },
              cell: ({ listingId, itemKey }) =>
                listingId === null ? itemKey : <Link to={`/listings?open=${listingId}`}>{itemKey}</Link>,
            },
            {
              head: 'Title',
              sortBy: ({ title }) => title,
              cell: ({ title }) => <Box cut>{title}</Box>,
              look: { maxWide: 280 },
            },
            {
              head: 'Outcome',
              sortBy: ({ outcome }) => outcome,
              cell: ({ outcome }) => <State is={outcome}>{outcome}</State>,
            },
            {
              head: 'In the channel’s words',
              sortBy: ({ message }) => message,
              cell: ({ message }) => message,
              look: { small: true },
            },
          ]}
        />
      )}
    </Loaded>
  );
}
