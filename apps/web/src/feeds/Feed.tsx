/** One feed: its address, its runs, the balance of the run that is looked at, what was left out, what the channel said. */
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FeedAnswer, type RunAnswer, api } from '@velvet-shelf/contract';
import { Link, useParams, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { State } from '../design/State';
import { bytes, clock, count, plural } from '../design/words';
import { Balance } from './Balance';

export function Feed() {
  const id = Number(useParams().id);
  const feed = useQuery({
    queryKey: ['feed', id],
    queryFn: () => call(api.feeds.feed, { params: { id } }),
    refetchInterval: (query) => (query.state.data?.runs[0]?.state === 'running' ? 400 : false),
  });
  return <Loaded query={feed}>{(data) => <Page feed={data} />}</Loaded>;
}

function Page({ feed }: { feed: FeedAnswer }) {
  const [search, setSearch] = useSearchParams();
  const queries = useQueryClient();
  const tell = useTell();
  const params = { id: feed.id };
  const refresh = () => queries.invalidateQueries();
  const build = useMutation({ mutationFn: () => call(api.feeds.build, { params }), onSuccess: refresh });
  const offer = useMutation({
    mutationFn: () => call(api.feeds.offer, { params }),
    onSuccess: (run) => {
      tell(
        run.report
          ? `The channel answered: ${run.report.accepted + run.report.warned} taken, ${run.report.refused} refused, ${run.report.unanswered} unanswered`
          : 'The channel has not answered yet',
      );
      return refresh();
    },
  });
  const isBuilding = build.isPending || feed.runs[0]?.state === 'running';
  const run = feed.runs.find((run) => run.id === Number(search.get('run'))) ?? feed.runs[0];
  const up = feed.runs.find((run) => run.up);
  const error = build.error ?? offer.error;
  return (
    <section className="grow col">
      <div style={{ padding: '14px 24px 10px' }}>
        <div className="muted small">
          <Link to="/feeds">Feeds</Link> · {feed.place}
        </div>
        <div className="row" style={{ gap: 12 }}>
          <h1 className="grow">{feed.name}</h1>
          <Button variant="outlined" disabled={isBuilding} onClick={() => build.mutate()}>
            Build now
          </Button>
          <Button variant="contained" disabled={!up || isBuilding || offer.isPending} onClick={() => offer.mutate()}>
            {offer.isPending ? 'The channel is reading…' : 'Ask the channel to fetch it'}
          </Button>
        </div>
        <div className="row small" style={{ marginTop: 6 }}>
          <span className="muted">Its address</span>
          <code
            className="cut"
            style={{ background: 'var(--band)', padding: '2px 8px', borderRadius: 4, maxWidth: 560 }}
            title={feed.address}
          >
            {feed.address}
          </code>
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
            <span className="muted">
              serves run {up.id}, {bytes(up.bytes ?? 0)}, {bytes(up.gzipBytes ?? 0)} packed
            </span>
          ) : (
            <span className="muted">serves nothing until a run is done</span>
          )}
        </div>
        {error && <ProblemBox error={error} />}
      </div>
      {run ? (
        <div className="grow" style={{ display: 'flex', minHeight: 0, borderTop: '1px solid var(--line)' }}>
          <Runs feed={feed} chosen={run.id} onChoose={(id) => setSearch({ run: String(id) })} />
          <Run
            key={run.id}
            run={run}
            tab={search.get('tab') ?? 'left-out'}
            onTab={(tab) => setSearch({ run: String(run.id), tab })}
            onChange={refresh}
          />
        </div>
      ) : (
        <Empty title="Not built yet">Build it: you see what goes out and what does not before any channel does.</Empty>
      )}
    </section>
  );
}

function Runs({ feed, chosen, onChoose }: { feed: FeedAnswer; chosen: number; onChoose: (id: number) => void }) {
  return (
    <div className="scroll" style={{ width: 300, flex: 'none', borderRight: '1px solid var(--line)' }}>
      <h3 style={{ padding: '10px 16px 4px 24px' }}>Runs</h3>
      {feed.runs.map((run) => (
        <button
          key={run.id}
          type="button"
          className="cause"
          style={{ paddingLeft: 20 }}
          aria-current={run.id === chosen}
          onClick={() => onChoose(run.id)}
        >
          <span className="grow">
            <b>Run {run.id}</b> <span className="muted small">{clock(run.startedAt)}</span>
            <span className="muted small" style={{ display: 'block' }}>
              {run.counts ? `${count(run.counts.sent)} items` : ''}{' '}
              {run.difference && run.difference.before > 0
                ? `+${run.difference.added} −${run.difference.removed} ~${run.difference.changed}`
                : ''}
            </span>
          </span>
          <State is={run.up ? 'live' : run.state}>{run.up ? 'up' : run.state}</State>
        </button>
      ))}
      <h3 style={{ padding: '16px 16px 4px 24px' }}>Fetched</h3>
      {feed.fetches.length === 0 && (
        <p className="muted small" style={{ padding: '0 24px' }}>
          Nobody has fetched it yet.
        </p>
      )}
      {feed.fetches.slice(0, 8).map((fetch, i) => (
        <div key={i} className="row small" style={{ padding: '3px 16px 3px 24px' }}>
          <span className="muted">{clock(fetch.at)}</span>
          <span className="grow cut">{fetch.agent}</span>
          <span>{fetch.status}</span>
        </div>
      ))}
    </div>
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
      <div style={{ padding: 24 }} role="status">
        <h2>Building</h2>
        <span className="bar" style={{ display: 'block', width: 300, margin: '10px 0' }}>
          <i
            style={{
              width: `${run.progress && run.progress.total > 0 ? (100 * run.progress.done) / run.progress.total : 0}%`,
            }}
          />
        </span>
        {count(run.progress?.done ?? 0)} of {plural(run.progress?.total ?? 0, 'listing')}
      </div>
    );
  return (
    <div className="grow col" style={{ background: 'var(--card)' }}>
      <div style={{ padding: '12px 24px 0' }}>
        {run.heldWhy && run.state === 'held' && (
          <div
            className="row"
            style={{ background: 'var(--held-tint)', borderRadius: 6, padding: '8px 12px', marginBottom: 10 }}
          >
            <State is="held">Held</State>
            <span className="grow">{run.heldWhy}. The file before it is still up.</span>
            <Button variant="contained" disabled={release.isPending} onClick={() => release.mutate()}>
              Release it
            </Button>
          </div>
        )}
        {run.error && <ProblemBox error={run.error} />}
        {release.error && <ProblemBox error={release.error} />}
        {run.counts && <Balance run={run} counts={run.counts} />}
        <div className="row">
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
        </div>
      </div>
      <div className="scroll grow" style={{ padding: '6px 24px 20px' }}>
        {tab === 'report' && run.report ? <Report run={run} /> : <LeftOut run={run} />}
      </div>
    </div>
  );
}

function LeftOut({ run }: { run: RunAnswer }) {
  const left = useQuery({
    queryKey: ['left-out', run.id, run.state],
    queryFn: () => call(api.feeds.leftOut, { params: { id: run.id } }),
  });
  return (
    <Loaded query={left}>
      {({ groups }) =>
        groups.length === 0 ? (
          <p className="muted">Nothing was left out.</p>
        ) : (
          <table className="plain">
            <thead>
              <tr>
                <th className="num">Listings</th>
                <th>Left out because</th>
                <th>For example</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {groups.map((group) => (
                <tr key={group.words}>
                  <td className="num serif" style={{ fontSize: 16 }}>
                    {count(group.listings)}
                  </td>
                  <td>{group.words}</td>
                  <td className="small muted" style={{ maxWidth: 330 }}>
                    {group.examples.slice(0, 2).map((example) => (
                      <div key={example.listingId} className="cut">
                        <Link className="plain" to={`/listings?open=${example.listingId}`}>
                          {example.sku} {example.title}
                        </Link>
                      </div>
                    ))}
                  </td>
                  <td>{group.cause && <Link to={`/causes?cause=${encodeURIComponent(group.cause)}`}>Fix</Link>}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )
      }
    </Loaded>
  );
}

function Report({ run }: { run: RunAnswer }) {
  const report = useQuery({
    queryKey: ['report', run.id, run.report?.id],
    queryFn: () => call(api.feeds.report, { params: { id: run.id } }),
  });
  return (
    <Loaded query={report}>
      {({ items }) => (
        <table className="plain">
          <thead>
            <tr>
              <th>Item</th>
              <th>Title</th>
              <th>Outcome</th>
              <th>In the channel’s words</th>
            </tr>
          </thead>
          <tbody>
            {items.slice(0, 500).map((row) => (
              <tr key={row.itemKey}>
                <td style={{ whiteSpace: 'nowrap' }}>
                  {row.listingId === null ? (
                    row.itemKey
                  ) : (
                    <Link to={`/listings?open=${row.listingId}`}>{row.itemKey}</Link>
                  )}
                </td>
                <td style={{ maxWidth: 280 }}>
                  <div className="cut">{row.title}</div>
                </td>
                <td>
                  <State is={row.outcome}>{row.outcome}</State>
                </td>
                <td className="small">{row.message}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Loaded>
  );
}
