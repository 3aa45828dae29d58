/** What people say of an account: a form for one that is made, and for one that is changed. */
import Button from '@mui/material/Button';
import { type ChannelAnswer, api } from '@velvet-shelf/contract';
import type { z } from 'zod';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';
import { regionOptions } from './regions';

export type AccountBody = z.output<typeof api.channels.addAccount.body>;

export function AccountFields({
  of,
  was,
  address,
  verb,
  isSending,
  error,
  onSend,
  onCancel,
}: {
  of: ChannelAnswer;
  /** What the fields begin with. */
  was: AccountBody;
  /** What an empty address means. */
  address: string;
  verb: string;
  isSending: boolean;
  error: unknown;
  onSend: (to: AccountBody) => void;
  onCancel: () => void;
}) {
  const form = useFields(api.channels.addAccount.body, was);
  return (
    <Form form={form} onSend={onSend} onCancel={onCancel} error={error} above={3}>
      <Box row align="start">
        <Field control={form.control} name="name" label="Name of the account" autoFocus />
        {of.regions.length > 0 && (
          <Field
            control={form.control}
            name="region"
            label="Region"
            options={regionOptions(of.regions)}
            sx={{ minWidth: 160 }}
          />
        )}
        <Field
          control={form.control}
          name="address"
          label="Address of the channel’s own service"
          helperText={address}
          sx={{ width: 320 }}
        />
        <Button type="submit" variant="contained" disabled={isSending}>
          {verb}
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
