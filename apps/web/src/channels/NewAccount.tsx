/** A further account on a channel. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type ChannelAnswer, api } from '@velvet-shelf/contract';
import type { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { regionOptions } from './regions';

export function NewAccount({ channel, onDone }: { channel: ChannelAnswer; onDone: () => void }) {
  const queries = useQueryClient();
  const tell = useTell();
  /** One where there is no account yet, if any. */
  const region = channel.regions.find(({ key }) => !channel.accounts.some((each) => each.region === key));
  const form = useFields(api.channels.addAccount.body, { name: '', address: '', region: region?.key ?? '' });
  const add = useMutation({
    mutationFn: (body: z.output<typeof api.channels.addAccount.body>) =>
      call(api.channels.addAccount, { params: { id: channel.id }, body }),
    onSuccess: () => {
      tell('The account stands: make its places, and connect it');
      onDone();
      void queries.invalidateQueries();
    },
  });
  return (
    <Form form={form} onSend={(body) => add.mutate(body)} onCancel={onDone} error={add.error} above={3}>
      <Box row align="start">
        <Field control={form.control} name="name" label="Name of the account" autoFocus />
        {channel.regions.length > 0 && (
          <Field
            control={form.control}
            name="region"
            label="Region"
            options={regionOptions(channel.regions)}
            sx={{ minWidth: 160 }}
          />
        )}
        <Field
          control={form.control}
          name="address"
          label="Address of the channel’s own service"
          helperText="Empty: that of the first account"
          sx={{ width: 320 }}
        />
        <Button type="submit" variant="contained" disabled={add.isPending}>
          Make the account
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
