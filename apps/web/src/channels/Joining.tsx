/** How an account is connected, in each of the ways there are; what that comes to is said before it is done. */
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { type AccountAnswer, api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import type { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { plural } from '../design/words';
import { useAccount } from './useAccount';

export function Joining({ account }: { account: AccountAnswer }) {
  const { channel, joins, hasService, state, linked, reads, writes, region, regions } = account;
  if (!hasService)
    return (
      <Box muted>
        Say the address of {channel}’s own service first, with Change beside the account: there is nobody to ask yet.
      </Box>
    );
  return (
    <Box col gap={3}>
      <Box row align="start" gap={6}>
        <Said what="What will be read" lines={reads} />
        <Said what="What will be written" lines={writes} />
      </Box>
      {linked > 0 && <Box small>{plural(linked, 'listing goes', 'listings go')} on under the links there are.</Box>}
      {regions.length > 0 && region === '' ? (
        <Box muted>Choose the region first: {channel} keeps its regions apart.</Box>
      ) : (
        <>
          {joins === 'consent' && <ByConsent account={account} again={state === 'expired'} />}
          {joins === 'secret' && <BySecret account={account} />}
          {joins === 'address' && <ByToken account={account} />}
        </>
      )}
    </Box>
  );
}

function Said({ what, lines }: { what: string; lines: string[] }) {
  return (
    <Box grow small col gap={1}>
      <b>{what}</b>
      {lines.map((line) => (
        <span key={line}>{line}</span>
      ))}
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
