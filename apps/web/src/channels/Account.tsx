/** One of the accounts on a channel: how it stands, what it is called, and the places it sells at. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ChannelAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Removal } from '../design/Removal';
import { State } from '../design/State';
import { type AccountBody, AccountFields } from './AccountFields';
import { NewPlace } from './NewPlace';
import { sayRegion } from './regions';
import { stateWords } from './states';

type AccountRow = ChannelAnswer['accounts'][number];

export function Account({
  channel,
  account,
  onOpen,
}: {
  channel: ChannelAnswer;
  account: AccountRow;
  onOpen: () => void;
}) {
  const [isAdding, setAdding] = useState(false);
  const { places, region } = account;
  const free = channel.markets.filter(
    (market) => (region === '' || market.region === region) && !places.some((place) => place.market === market.key),
  );
  return (
    <Box above={3}>
      <Line channel={channel} account={account} onOpen={onOpen} />
      {places.map((place) => (
        <Box row key={place.id} pad={[2, 0]} line="top">
          <Box as={Link} grow strong to={`/places/${place.id}/goods`} className="plain">
            {place.name}
          </Box>
          <Button component={Link} to={`/places/${place.id}/goods`} color="secondary">
            Which goods
          </Button>
          <Button component={Link} to={`/places/${place.id}/categories`} color="secondary">
            Category map
          </Button>
          <Button component={Link} to={`/places/${place.id}/fills`} color="secondary">
            Fills
          </Button>
          <Removal
            of={place.name}
            goes="Its listings, pins and feeds go with it, for good."
            remove={() => call(api.channels.removePlace, { params: { id: place.id } })}
          />
        </Box>
      ))}
      {free.length === 0 ? (
        <Box small muted>
          {region === ''
            ? 'Every market has its place'
            : `Every market of ${sayRegion(channel.regions, region)} has its place`}
        </Box>
      ) : isAdding || places.length === 0 ? (
        <NewPlace channel={channel} account={account.id} markets={free} onDone={() => setAdding(false)} />
      ) : (
        <Button color="secondary" sx={{ p: 0, minWidth: 0 }} onClick={() => setAdding(true)}>
          + Place
        </Button>
      )}
    </Box>
  );
}

/** The account itself, to be opened or changed. */
function Line({ channel, account, onOpen }: { channel: ChannelAnswer; account: AccountRow; onOpen: () => void }) {
  const [isOpen, setOpen] = useState(false);
  const { id, name, region, address, state, joins, places } = account;
  if (isOpen) return <Changing channel={channel} account={account} onDone={() => setOpen(false)} />;
  const isLetGo = state === 'off' || state === 'expired';
  return (
    <Box small muted row>
      <span>
        Account {name}
        {region !== '' && ` · ${sayRegion(channel.regions, region)}`} ·{' '}
        {address === '' ? 'nobody answers for it: files are fetched or handed over' : address}
      </span>
      {joins !== null && (
        <>
          <State is={stateWords[state].is}>{stateWords[state].words}</State>
          <Button color="secondary" sx={{ p: 0 }} aria-label={`Open the account ${name}`} onClick={onOpen}>
            {isLetGo ? 'Connect' : 'Open'}
          </Button>
        </>
      )}
      <Button color="secondary" sx={{ p: 0 }} aria-label={`Change the account ${name}`} onClick={() => setOpen(true)}>
        Change
      </Button>
      {channel.accounts.length > 1 && places.length === 0 && (
        <Removal
          of={`the account ${name}`}
          goes="It sells nowhere. What the channel keeps of it stays there."
          remove={() => call(api.channels.removeAccount, { params: { id } })}
        />
      )}
    </Box>
  );
}

function Changing({ channel, account, onDone }: { channel: ChannelAnswer; account: AccountRow; onDone: () => void }) {
  const queries = useQueryClient();
  const tell = useTell();
  const was = { name: account.name, address: account.address, region: account.region };
  const save = useMutation({
    mutationFn: (to: AccountBody) =>
      call(api.channels.changeAccount, { params: { id: account.id }, body: { to, was } }),
    onSuccess: () => {
      tell('Kept');
      onDone();
      void queries.invalidateQueries();
    },
  });
  return (
    <AccountFields
      of={channel}
      was={was}
      address="Empty where it has none"
      verb="Keep"
      isSending={save.isPending}
      error={save.error}
      onSend={(to) => save.mutate(to)}
      onCancel={onDone}
    />
  );
}
