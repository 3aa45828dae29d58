/** A further account on a channel. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ChannelAnswer, api } from '@velvet-shelf/contract';
import { call } from '../api/call';
import { useTell } from '../design/feedback';
import { type AccountBody, AccountFields } from './AccountFields';

export function NewAccount({ channel, onDone }: { channel: ChannelAnswer; onDone: () => void }) {
  const queries = useQueryClient();
  const tell = useTell();
  /** One where there is no account yet, if any. */
  const region = channel.regions.find(({ key }) => !channel.accounts.some((each) => each.region === key));
  const add = useMutation({
    mutationFn: (body: AccountBody) => call(api.channels.addAccount, { params: { id: channel.id }, body }),
    onSuccess: () => {
      tell('The account stands: make its places, and connect it');
      onDone();
      void queries.invalidateQueries();
    },
  });
  return (
    <AccountFields
      of={channel}
      was={{ name: '', address: '', region: region?.key ?? '' }}
      address="Empty: that of the first account"
      verb="Make the account"
      isSending={add.isPending}
      error={add.error}
      onSend={(body) => add.mutate(body)}
      onCancel={onDone}
    />
  );
}
