/** An account on a channel: joined or let go, what is missing on the channel’s side, its standing, the terms it keeps there. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type AccountAnswer, type PlaceAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import type { z } from 'zod';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Exemptions } from './Exemptions';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { State } from '../design/State';
import { count, day, plural } from '../design/words';

export const stateWords: Record<AccountAnswer['state'], { words: string; is: string }> = {
  connected: { words: 'connected', is: 'live' },
  pending: { words: 'waiting for the channel', is: 'held' },
  off: { words: 'not connected', is: 'none' },
  expired: { words: 'not let in any more', is: 'blocked' },
};

export function AccountPanel({ id }: { id: number }) {
  const account = useQuery(ask(api.accounts.show, { params: { id } }));
  return <Loaded query={account}>{(answer) => <Shown account={answer} />}</Loaded>;
}

/** Keeps what the server answers, and says it. */
function useAccount(id: number, words: string) {
  const queries = useQueryClient();
  const tell = useTell();
  return (answer: AccountAnswer) => {
    queries.setQueryData(keyOf(api.accounts.show, { params: { id } }), answer);
    void queries.invalidateQueries();
    tell(words);
  };
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
      <Places channel={channel} />
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

/** What is still to set at each place, what frees most first: the causes of its listings. */
function Places({ channel }: { channel: string }) {
  const places = useQuery(ask(api.channels.places)).data?.items.filter(({ channelName }) => channelName === channel);
  if (!places || places.length === 0) return null;
  const at = ({ totals }: PlaceAnswer, readiness: string) =>
    totals.filter((total) => total.readiness === readiness).reduce((sum, { listings }) => sum + listings, 0);
  return (
    <Box>
      <Box as="h3" below={1}>
        What is still to set
      </Box>
      {places.map((place) => (
        <Box row key={place.id} gap={3}>
          <Box grow>{place.name}</Box>
          <State is="ready">{count(at(place, 'ready'))} ready</State>
          {at(place, 'blocked') > 0 ? (
            <Link to={`/causes?place=${place.id}`}>
              <State is="blocked">{count(at(place, 'blocked'))} blocked: what frees most</State>
            </Link>
          ) : (
            <span>nothing is blocked</span>
          )}
        </Box>
      ))}
    </Box>
  );
}

/** What connecting comes to, said before it is done. */
function Joining({ account }: { account: AccountAnswer }) {
  const { channel, joins, hasService, state } = account;
  if (!hasService)
    return (
      <Box muted>
        Say the address of {channel}’s own service first, with Change beside the account: there is nobody to ask yet.
      </Box>
    );
  return (
    <Box col gap={3}>
      <Box small>
        Once connected, how the account stands and what it keeps there is read every day
        {account.linked > 0 &&
          ` and ${plural(account.linked, 'listing goes', 'listings go')} on under the links there are`}
        . Nothing is written until you send something.
      </Box>
      {joins === 'consent' && <ByConsent account={account} again={state === 'expired'} />}
      {joins === 'secret' && <BySecret account={account} />}
      {joins === 'address' && <ByToken account={account} />}
    </Box>
  );
}

function ByConsent({ account: { id, channel }, again }: { account: AccountAnswer; again: boolean }) {
  const ask = useMutation({
    mutationFn: () => call(api.accounts.askConsent, { params: { id } }),
    onSuccess: ({ address }) => window.location.assign(address),
  });
  return (
    <>
      <Box>
        <Button variant="contained" disabled={ask.isPending} onClick={() => ask.mutate()}>
          {again ? `Connect ${channel} again` : `Go to ${channel} and agree`}
        </Button>
      </Box>
      {ask.error && <ProblemBox error={ask.error} />}
    </>
  );
}

function BySecret({ account: { id } }: { account: AccountAnswer }) {
  const done = useAccount(id, 'Connected');
  const form = useFields(api.accounts.joinBySecret.body, { id: '', secret: '' });
  const join = useMutation({
    mutationFn: (body: z.output<typeof api.accounts.joinBySecret.body>) =>
      call(api.accounts.joinBySecret, { params: { id }, body }),
    onSuccess: done,
  });
  return (
    <Form form={form} onSend={(body) => join.mutate(body)} error={join.error} columns gap={3} maxWide={380}>
      <Field control={form.control} name="id" label="Id of the account" autoComplete="off" />
      <Field control={form.control} name="secret" label="Its secret" type="password" autoComplete="off" />
      <Box>
        <Button type="submit" variant="contained" disabled={join.isPending}>
          Connect
        </Button>
      </Box>
    </Form>
  );
}

function ByToken({ account: { id, channel } }: { account: AccountAnswer }) {
  const done = useAccount(id, 'Connected');
  const form = useFields(api.accounts.joinByToken.body, { token: '' });
  const join = useMutation({
    mutationFn: (body: z.output<typeof api.accounts.joinByToken.body>) =>
      call(api.accounts.joinByToken, { params: { id }, body }),
    onSuccess: done,
  });
  return (
    <>
      <Box small>
        First give {channel} the address of a feed (<Link to="/feeds">Feeds</Link> shows it). Once it has seen enough
        goods there it shows a token: paste it here.
      </Box>
      <Form form={form} onSend={(body) => join.mutate(body)} error={join.error} columns gap={3} maxWide={380}>
        <Field control={form.control} name="token" label="Token" autoComplete="off" />
        <Box>
          <Button type="submit" variant="contained" disabled={join.isPending}>
            Connect
          </Button>
        </Box>
      </Form>
    </>
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
