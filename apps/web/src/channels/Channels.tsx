/** Channels with their accounts and places, and how a new one is made. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ChannelAnswer, api } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Drawer } from '../design/Drawer';
import { Empty, Loaded, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { Removal } from '../design/Removal';
import { plural } from '../design/words';
import { State } from '../design/State';
import { AccountPanel, stateWords } from './AccountPanel';
import { NewChannel } from './NewChannel';

const address = z.object({ make: inAddress.flag, account: inAddress.number });

export function Channels() {
  const channels = useQuery(ask(api.channels.list));
  const [{ make, account }, go] = useAddress(address);
  return (
    <>
      <Box as="section" scroll grow pad={[4.5, 6]}>
        <Box row>
          <Box as="h1" grow>
            Channels and places
          </Box>
          <Button variant="contained" onClick={() => go({ make: true })}>
            New channel
          </Button>
        </Box>
        <Loaded query={channels}>
          {({ items }) =>
            items.length === 0 ? (
              <Empty title="No channel yet">
                Load a channel’s rulebook, describe a small one yourself, or begin with one that ships.{' '}
                <Button variant="outlined" onClick={() => go({ make: true })}>
                  New channel
                </Button>
              </Empty>
            ) : (
              items.map((channel) => (
                <Channel key={channel.id} channel={channel} onAccount={(id) => go({ account: id })} />
              ))
            )
          }
        </Loaded>
      </Box>
      {account !== undefined && !make && (
        <Drawer label="Account" onClose={() => go({ account: undefined })}>
          <AccountPanel key={account} id={account} />
        </Drawer>
      )}
      {make && (
        <Drawer label="New channel" onClose={() => go({ make: false })}>
          <NewChannel onMade={() => go({ make: false })} />
        </Drawer>
      )}
    </>
  );
}

function Channel({ channel, onAccount }: { channel: ChannelAnswer; onAccount: (id: number) => void }) {
  const [isAdding, setAdding] = useState(false);
  const places = channel.accounts.flatMap((account) => account.places);
  const free = channel.markets.filter(({ key }) => !places.some(({ market }) => market === key));
  return (
    <Box as="section" aria-label={channel.name} framed surface="card" pad={[4, 5]} above={4}>
      <Box row align="baseline">
        <h2>{channel.name}</h2>
        <Box as="span" small muted grow>
          rulebook {channel.version} · {plural(channel.attributes, 'field')} ·{' '}
          {plural(channel.categories, 'category', 'categories')} · {plural(channel.markets.length, 'market')}
        </Box>
        {places.length === 0 && (
          <Removal
            of={channel.name}
            goes="Its rulebooks, category map and fills go with it, for good."
            remove={() => call(api.channels.removeChannel, { params: { id: channel.id } })}
          />
        )}
      </Box>
      {channel.accounts.map((account) => (
        <Account key={account.id} account={account} onOpen={() => onAccount(account.id)} />
      ))}
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
      {isAdding || places.length === 0 ? (
        free.length > 0 && <NewPlace channel={channel} markets={free} onDone={() => setAdding(false)} />
      ) : (
        <Button color="secondary" sx={{ p: 0, mt: 1 }} disabled={free.length === 0} onClick={() => setAdding(true)}>
          {free.length === 0 ? 'Every market has its place' : '+ Place'}
        </Button>
      )}
    </Box>
  );
}

function Account({ account, onOpen }: { account: ChannelAnswer['accounts'][number]; onOpen: () => void }) {
  const queries = useQueryClient();
  const tell = useTell();
  const [isOpen, setOpen] = useState(false);
  const was = { name: account.name, address: account.address };
  const form = useFields(api.channels.changeAccount.body.shape.to, was);
  const save = useMutation({
    mutationFn: (to: z.output<typeof api.channels.changeAccount.body.shape.to>) =>
      call(api.channels.changeAccount, { params: { id: account.id }, body: { to, was } }),
    onSuccess: () => {
      tell('Kept');
      setOpen(false);
      void queries.invalidateQueries();
    },
  });
  if (!isOpen)
    return (
      <Box small muted row>
        <span>
          Account {account.name} ·{' '}
          {account.address === '' ? 'nobody answers for it: files are fetched or handed over' : account.address}
        </span>
        {account.joins !== null && (
          <>
            <State is={stateWords[account.state].is}>{stateWords[account.state].words}</State>
            <Button color="secondary" sx={{ p: 0 }} aria-label={`Open the account ${account.name}`} onClick={onOpen}>
              {account.state === 'off' || account.state === 'expired' ? 'Connect' : 'Open'}
            </Button>
          </>
        )}
        <Button
          color="secondary"
          sx={{ p: 0 }}
          aria-label={`Change the account ${account.name}`}
          onClick={() => setOpen(true)}
        >
          Change
        </Button>
      </Box>
    );
  return (
    <Form form={form} onSend={(to) => save.mutate(to)} onCancel={() => setOpen(false)} error={save.error} above={2}>
      <Box row align="start">
        <Field control={form.control} name="name" label="Name of the account" />
        <Field
          control={form.control}
          name="address"
          label="Address of the channel’s own service"
          helperText="Empty where it has none"
          sx={{ width: 320 }}
        />
        <Button type="submit" variant="contained" disabled={save.isPending}>
          Keep
        </Button>
        <Button color="inherit" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}

/** Goods that are on sale: what a place gets unless one says otherwise. */
const onSale = { all: [] };

function NewPlace({
  channel,
  markets,
  onDone,
}: {
  channel: ChannelAnswer;
  markets: ChannelAnswer['markets'];
  onDone: () => void;
}) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const tell = useTell();
  const form = useFields(api.channels.addPlace.body, { market: markets[0]?.key ?? '', name: '', condition: onSale });
  const add = useMutation({
    mutationFn: (body: z.output<typeof api.channels.addPlace.body>) =>
      call(api.channels.addPlace, { params: { id: channel.id }, body }),
    onSuccess: async ({ id }) => {
      onDone();
      tell('The place stands. All goods go there until you say which.');
      void queries.invalidateQueries();
      await navigate(`/places/${id}/goods`);
    },
  });
  return (
    <Form form={form} onSend={(body) => add.mutate(body)} onCancel={onDone} error={add.error} above={3}>
      <Box row align="start">
        <Field
          control={form.control}
          name="market"
          label="Market"
          options={markets.map(({ key, name, language, currency }) => [
            key,
            `${name} · ${sayLanguage(language)} · ${currency}`,
          ])}
          sx={{ minWidth: 260 }}
        />
        <Field
          control={form.control}
          name="name"
          label="Name of the place"
          placeholder={`${channel.name}, ${markets[0]?.name}`}
        />
        <Button type="submit" variant="contained" disabled={add.isPending}>
          Make the place
        </Button>
      </Box>
    </Form>
  );
}
