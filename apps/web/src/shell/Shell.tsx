/** The shelf edge along the top, the work below it, one thin line at the foot. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Shelf, api } from '@velvet-shelf/contract';
import { Suspense, lazy, useEffect, useState } from 'react';
import { ask, keyOf } from '../api/ask';
import {
  Link,
  NavLink,
  Navigate,
  Outlet,
  isRouteErrorResponse,
  useLocation,
  useNavigate,
  useNavigation,
  useRouteError,
} from 'react-router';
import { ApiProblem, call } from '../api/call';
import { followEvents } from '../api/events';
import { Empty, useTell } from '../design/feedback';
import { Meter } from '../design/Meter';
import { count } from '../design/words';
import { useWho } from '../session/who';
import { Account } from './Account';
import { Rooms } from './Rooms';
import './shell.css';

type Who = NonNullable<ReturnType<typeof useWho>['data']>;

const CommandBox = lazy(() => import('./CommandBox'));
const Keys = lazy(() => import('./Keys'));

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(?:INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

export function Shell() {
  const location = useLocation();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const who = useWho();
  const shelf = useQuery({
    ...ask(api.today.shelf),
    enabled: Boolean(who.data?.company),
    refetchInterval: (query) =>
      (query.state.data?.jobs.length ?? 0) > 0 || (query.state.data?.rechecking ?? 0) > 0 ? 1_000 : 30_000,
  });
  const [searching, setSearching] = useState(false);
  const [asking, setAsking] = useState(false);
  const signedIn = who.data !== undefined;

  useEffect(() => (signedIn ? followEvents(queries) : undefined), [signedIn, queries]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        setSearching(true);
      } else if (event.key === '?' && !isTyping(event.target)) setAsking(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const lost = who.error instanceof ApiProblem && who.error.status === 401;
  useEffect(() => {
    if (lost)
      void navigate(`/sign-in?to=${encodeURIComponent(location.pathname + location.search)}`, { replace: true });
  }, [lost, navigate, location]);

  if (!who.data)
    return who.error && !lost ? <Empty title="The server cannot be reached">{String(who.error)}</Empty> : null;
  if (!who.data.company) return <Navigate to="/begin" replace />;
  return (
    <div className="shell">
      <Edge shelf={shelf.data} who={who.data} onSearch={() => setSearching(true)} />
      <main className="page" id="main">
        <Loading />
        <Outlet />
      </main>
      <Foot
        shelf={shelf.data}
        isBehind={
          (shelf.isFetching || shelf.isError) &&
          queries.getQueryState(keyOf(api.today.shelf, {}))?.isInvalidated === true
        }
      />
      {searching && (
        <Suspense>
          <CommandBox onClose={() => setSearching(false)} />
        </Suspense>
      )}
      {asking && (
        <Suspense>
          <Keys onClose={() => setAsking(false)} />
        </Suspense>
      )}
    </div>
  );
}

function Loading() {
  return useNavigation().state === 'idle' ? null : (
    <LinearProgress sx={{ position: 'absolute', left: 0, right: 0, top: 0, height: 2, zIndex: 5 }} />
  );
}

function Edge({ shelf, who, onSearch }: { shelf: Shelf | undefined; who: Who; onSearch: () => void }) {
  return (
    <header className="edge">
      <Link to="/" className="word">
        Velvet Shelf<small>{who.company?.name}</small>
      </Link>
      <Rooms />
      <nav aria-label="Work that waits" className="tickets">
        <NavLink to="/" end className="ticket today">
          <span>Today</span>
        </NavLink>
        <Ticket to="/matching" label="To match" n={shelf?.toMatch} />
        <Ticket to="/catalog?toComplete=yes&all=yes&show=variants" label="To complete" n={shelf?.toComplete} />
        <Ticket
          to="/causes"
          label="To fit"
          n={shelf?.toFit}
          note={shelf && shelf.rechecking > 0 ? `re-checking ${count(shelf.rechecking)}` : undefined}
        />
        <Ticket
          to="/listings?toSend=yes"
          label="To send"
          n={shelf?.toSend}
          note={shelf && shelf.held > 0 ? `‖ ${shelf.held} held` : undefined}
        />
      </nav>
      <div className="right">
        <button type="button" className="search" onClick={onSearch}>
          Find anything <kbd>Ctrl K</kbd>
        </button>
        <Account name={who.name} email={who.email} role={who.role} />
      </div>
    </header>
  );
}

function Ticket({
  to,
  label,
  n,
  note,
}: {
  to: string;
  label: string;
  n: number | undefined;
  note?: string | undefined;
}) {
  return (
    <NavLink to={to} className="ticket">
      <b>{n === undefined ? '·' : count(n)}</b>
      <span>{label}</span>
      {note && <i>{note}</i>}
    </NavLink>
  );
}

/** `isBehind`: something was done since; what is shown is not the last action any more, and must not be undone for it. */
function Foot({ shelf, isBehind }: { shelf: Shelf | undefined; isBehind: boolean }) {
  const tell = useTell();
  const queries = useQueryClient();
  const undo = useMutation({
    mutationFn: (id: number) => call(api.today.undo, { params: { id } }),
    onSuccess: ({ words, left }) => {
      tell(left.length > 0 ? `${words}. Left as it is: ${left.slice(0, 3).join('; ')}` : words);
      void queries.invalidateQueries();
    },
    onError: (error) => tell(error.message, 'error'),
  });
  const [job] = shelf?.jobs ?? [];
  const last = shelf?.lastAction;
  return (
    <footer className="foot">
      {job && (
        <Box as="span" cut row role="status">
          <Meter percent={job.total > 0 ? (100 * job.done) / job.total : 0} label={job.label} wide={110} />
          <Box as="span" cut>
            {job.label}
            {job.state === 'failed'
              ? ` failed: ${job.error}`
              : job.total > 0
                ? ` · ${count(job.done)} of ${count(job.total)}`
                : job.done > 0
                  ? ` · ${count(job.done)} so far`
                  : ''}
          </Box>
        </Box>
      )}
      {last && (
        <Box as="span" cut row>
          <Box as="span" cut>
            {last.words}
          </Box>
          {last.canUndo && (
            <Button
              size="small"
              color="secondary"
              sx={{ p: 0, minWidth: 0, fontSize: 12 }}
              disabled={undo.isPending || isBehind}
              onClick={() => undo.mutate(last.id)}
            >
              Undo
            </Button>
          )}
        </Box>
      )}
      <Box as={Link} toEnd to="/history">
        History
      </Box>
    </footer>
  );
}

export function Broken() {
  const error = useRouteError();
  if (!error || (isRouteErrorResponse(error) && error.status === 404))
    return (
      <Empty title="There is no such page">
        The address may be mistyped. <Link to="/">Go to Today</Link>
      </Empty>
    );
  const again = (
    <Button variant="outlined" onClick={() => window.location.reload()}>
      Load the page again
    </Button>
  );
  // A page is fetched when it is first opened; after an update the old ones are gone.
  if (error instanceof TypeError && /module|import/i.test(error.message))
    return (
      <Empty title="This page could not be fetched">
        The application was updated meanwhile, or the server is away. {again}
      </Empty>
    );
  return (
    <Empty title="This page broke">
      What was saved is kept. {again}{' '}
      <Box as="span" small muted>
        {String(error)}
      </Box>
    </Empty>
  );
}
