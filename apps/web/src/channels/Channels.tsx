/** Channels with their accounts and places, and how a new one is made. */
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { type ChannelAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Drawer } from '../design/Drawer';
import { Empty, Loaded } from '../design/feedback';
import { Removal } from '../design/Removal';
import { plural } from '../design/words';
import { Account } from './Account';
import { AccountPanel } from './AccountPanel';
import { NewAccount } from './NewAccount';
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
  const { id, name, accounts } = channel;
  return (
    <Box as="section" aria-label={name} framed surface="card" pad={[4, 5]} above={4}>
      <Box row align="baseline">
        <h2>{name}</h2>
        <Box as="span" small muted grow>
          rulebook {channel.version} · {plural(channel.attributes, 'field')} ·{' '}
          {plural(channel.categories, 'category', 'categories')} · {plural(channel.markets.length, 'market')}
        </Box>
        <Button color="secondary" disabled={isAdding} onClick={() => setAdding(true)}>
          + Account
        </Button>
        {accounts.every(({ places }) => places.length === 0) && (
          <Removal
            of={name}
            goes="Its rulebooks, category map and fills go with it, for good."
            remove={() => call(api.channels.removeChannel, { params: { id } })}
          />
        )}
      </Box>
      {accounts.map((account) => (
        <Account key={account.id} channel={channel} account={account} onOpen={() => onAccount(account.id)} />
      ))}
      {isAdding && <NewAccount channel={channel} onDone={() => setAdding(false)} />}
    </Box>
  );
}
