/** An account on a channel: joined or let go, what is missing on the channel’s side, its standing, the terms it keeps there. */
import Button from '@mui/material/Button';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type AccountAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Exemptions } from './Exemptions';
import { Joining } from './Joining';
import { Markets } from './Markets';
import { StillToSet } from './StillToSet';
import { stateWords } from './states';
import { useAccount } from './useAccount';
import { Loaded, ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { count, day, plural } from '../design/words';

export function AccountPanel({ id }: { id: number }) {
  const account = useQuery(ask(api.accounts.show, { params: { id } }));
  return <Loaded query={account}>{(answer) => <Shown account={answer} />}</Loaded>;
}

function Shown({ account }: { account: AccountAnswer }) {
  const { id, name, channel, state, missing, notices, late, cancelled, fault, askedAt, terms } = account;
  const done = useAccount(id, 'Asked');
  const refresh = useMutation({
    mutationFn: () => call(api.accounts.refresh, { params: { id } }),
    onSuccess: done,
  });
  const isJoined = state === 'connected' || state === 'pending';
  return (
    <Box col gap={3}>
      <Box>
        <Box as="h2" padRight={8}>
          {name} on {channel}
        </Box>
        <Box row gap={3} above={1}>
          <State is={stateWords[state].is}>{stateWords[state].words}</State>
          {askedAt !== null && (
            <Box as="span" small muted>
              last asked {day(askedAt)}
            </Box>
          )}
          <Box grow />
          {isJoined && (
            <Button variant="outlined" disabled={refresh.isPending} onClick={() => refresh.mutate()}>
              Ask again
            </Button>
          )}
        </Box>
      </Box>
      {fault !== null && (
        <Box surface="advice" rounded pad={[2, 3]} small role="status">
          {fault}
        </Box>
      )}
      {refresh.error && <ProblemBox error={refresh.error} />}
      {missing.length > 0 && isJoined && (
        <Box surface="advice" rounded pad={[2, 3]}>
          <b>{channel} takes no goods yet.</b> What it still waits for, on its own side:
          <ul>
            {missing.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </Box>
      )}
      {!isJoined && <Markets account={account} />}
      {!isJoined && <Joining account={account} />}
      {isJoined && (
        <Box row gap={6}>
          <Figure label="Sent late" percent={late} />
          <Figure label="Cancelled by us" percent={cancelled} />
          <Box>
            <Box small muted>
              On the channel
            </Box>
            <b>{plural(account.live, 'live listing')}</b>
          </Box>
        </Box>
      )}
      {notices.length > 0 && (
        <Box>
          <h3>What {channel} has to say</h3>
          <ul>
            {notices.map((notice) => (
              <li key={notice}>{notice}</li>
            ))}
          </ul>
        </Box>
      )}
      {isJoined && <Markets account={account} />}
      <StillToSet accountId={id} />
      {terms.length > 0 && <Terms terms={terms} />}
      <Exemptions accountId={id} />
      {isJoined && <LetGo account={account} />}
    </Box>
  );
}

function Figure({ label, percent }: { label: string; percent: number | null }) {
  return (
    <Box>
      <Box small muted>
        {label}
      </Box>
      <b>{percent === null ? 'not told' : `${count(percent)} %`}</b>
    </Box>
  );
}

function Terms({ terms }: { terms: AccountAnswer['terms'] }) {
  return (
    <Box>
      <Box as="h3" below={1}>
        Kept in the account
      </Box>
      <DataTable
        label="Terms"
        rows={terms}
        keyOf={({ kind, key }) => `${kind} ${key}`}
        columns={[
          { head: 'What', cell: ({ kindLabel }) => kindLabel, sortBy: ({ kindLabel }) => kindLabel },
          { head: 'Name', cell: ({ label }) => label, sortBy: ({ label }) => label },
          { head: 'Known as', cell: ({ key }) => <code>{key}</code> },
          {
            head: '',
            id: 'Whether it is there',
            cell: ({ goneAt }) => goneAt !== null && <State is="blocked">gone since {day(goneAt)}</State>,
          },
        ]}
      />
      <Box small muted above={1}>
        Goods name them by the fills of a place: one that is gone keeps its listings back until another is chosen.
      </Box>
    </Box>
  );
}

function LetGo({ account: { id, channel, live, linked } }: { account: AccountAnswer }) {
  const [isAsked, setAsked] = useState(false);
  const done = useAccount(id, 'Disconnected');
  const letting = useMutation({
    mutationFn: () => call(api.accounts.letGo, { params: { id } }),
    onSuccess: done,
  });
  if (!isAsked)
    return (
      <Box>
        <Button color="inherit" onClick={() => setAsked(true)}>
          Disconnect
        </Button>
      </Box>
    );
  return (
    <Box surface="advice" rounded pad={[2, 3]} role="alert">
      {live > 0
        ? `${plural(live, 'listing stays', 'listings stay')} live on ${channel} as ${live === 1 ? 'it is' : 'they are'}: prices and stock are not kept up any more.`
        : `Nothing of yours is live on ${channel}.`}{' '}
      {linked > 0 &&
        `${plural(linked, 'link')} to its items ${linked === 1 ? 'is' : 'are'} kept for when you connect again. `}
      What it is spoken to with is forgotten.
      <Box row above={1}>
        <Button variant="contained" disabled={letting.isPending} onClick={() => letting.mutate()}>
          Disconnect
        </Button>
        <Button color="inherit" onClick={() => setAsked(false)}>
          Stay connected
        </Button>
      </Box>
      {letting.error && <ProblemBox error={letting.error} />}
    </Box>
  );
}
