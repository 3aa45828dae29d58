/** Who may come in, and who is invited. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Role, type UserAnswer, api, roles } from '@velvet-shelf/contract';
import { useState } from 'react';
import type { z } from 'zod';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { clock, day } from '../design/words';
import { useWho } from './who';

const may: Record<Role, string> = {
  viewer: 'looks at everything',
  editor: 'changes goods and set-up',
  publisher: 'sends, takes rulebooks, makes channels',
  owner: 'does all, and says who comes in',
};

export function People() {
  const people = useQuery(ask(api.session.people));
  const who = useWho();
  const queries = useQueryClient();
  const isOwner = who.data?.role === 'owner';
  const touched = () => void queries.invalidateQueries({ queryKey: keyOf(api.session.people) });
  const change = useMutation({
    mutationFn: ({ id, ...body }: { id: number; role?: Role; gone?: true }) =>
      call(api.session.changePerson, { params: { id }, body }),
    onSettled: touched,
  });
  const withdraw = useMutation({
    mutationFn: (id: number) => call(api.session.withdrawInvite, { params: { id } }),
    onSettled: touched,
  });
  const roleOf = (person: UserAnswer) =>
    isOwner ? (
      <TextField
        select
        value={person.role}
        disabled={change.isPending}
        slotProps={{ htmlInput: { 'aria-label': `Role of ${person.name}` } }}
        onChange={(event) => change.mutate({ id: person.id, role: event.target.value as Role })}
      >
        {roles.map((role) => (
          <MenuItem key={role} value={role}>
            {role}
          </MenuItem>
        ))}
      </TextField>
    ) : (
      person.role
    );
  return (
    <Box maxWide={900}>
      <Loaded query={people}>
        {({ items, invites }) => (
          <>
            <DataTable
              label="People"
              look={{ surface: 'card' }}
              rows={items}
              keyOf={({ id }) => id}
              columns={[
                { head: 'Name', sortBy: ({ name }) => name, cell: ({ name }) => name },
                { head: 'E-mail address', sortBy: ({ email }) => email, cell: ({ email }) => email },
                { head: 'Role', sortBy: ({ role }) => role, cell: roleOf },
                { head: 'May', look: { muted: true, small: true }, cell: ({ role }) => may[role] },
                {
                  head: 'Last visit',
                  sortBy: ({ lastVisit }) => lastVisit,
                  look: { muted: true, small: true },
                  cell: ({ lastVisit }) => (lastVisit === null ? '' : clock(lastVisit)),
                },
                {
                  head: '',
                  id: 'Let go',
                  cell: ({ id, name }) =>
                    isOwner &&
                    id !== who.data?.id && (
                      <Button
                        color="inherit"
                        aria-label={`Let ${name} in no more`}
                        disabled={change.isPending}
                        onClick={() => change.mutate({ id, gone: true })}
                      >
                        Let in no more
                      </Button>
                    ),
                },
              ]}
            />
            {change.error && <ProblemBox error={change.error} />}
            {invites.length > 0 && (
              <>
                <Box as="h2" around={[5, 0, 1]}>
                  Invited
                </Box>
                <DataTable
                  label="Invitations"
                  look={{ surface: 'card' }}
                  rows={invites}
                  keyOf={({ id }) => id}
                  columns={[
                    { head: 'E-mail address', cell: ({ email }) => email },
                    { head: 'As', cell: ({ role }) => role },
                    { head: 'Until', cell: ({ expires }) => day(expires) },
                    {
                      head: '',
                      id: 'Withdraw',
                      cell: ({ id, email }) =>
                        isOwner && (
                          <Button
                            color="inherit"
                            aria-label={`Withdraw the invitation of ${email}`}
                            disabled={withdraw.isPending}
                            onClick={() => withdraw.mutate(id)}
                          >
                            Withdraw
                          </Button>
                        ),
                    },
                  ]}
                />
                {withdraw.error && <ProblemBox error={withdraw.error} />}
              </>
            )}
          </>
        )}
      </Loaded>
      {isOwner && <Invite onInvited={touched} />}
    </Box>
  );
}

function Invite({ onInvited }: { onInvited: () => void }) {
  const form = useFields(api.session.invite.body, { email: '', role: 'editor' });
  const tell = useTell();
  const [link, setLink] = useState<z.output<typeof api.session.invite.answer> & { email: string }>();
  const invite = useMutation({
    mutationFn: (body: z.output<typeof api.session.invite.body>) => call(api.session.invite, { body }),
    onSuccess: (made, { email }) => {
      setLink({ ...made, email });
      form.reset();
      onInvited();
    },
  });
  return (
    <>
      <Box as="h2" around={[5, 0, 2]}>
        Invite somebody
      </Box>
      <Form form={form} onSend={(body) => invite.mutate(body)} error={invite.error}>
        <Box row align="start">
          <Field control={form.control} name="email" label="E-mail address" type="email" sx={{ width: 280 }} />
          <Field control={form.control} name="role" label="As" options={roles.map((role) => [role, role])} />
          <Button type="submit" variant="contained" disabled={invite.isPending}>
            Make a link
          </Button>
        </Box>
      </Form>
      {link && (
        <div className="effect" role="status">
          <Box grow>
            <div>
              Send this to {link.email}; it is shown once, and holds until {day(link.expires)}.
            </div>
            <Box as="code" breaks>
              {link.link}
            </Box>
          </Box>
          <Button
            variant="outlined"
            onClick={() => void navigator.clipboard.writeText(link.link).then(() => tell('Copied'))}
          >
            Copy
          </Button>
        </div>
      )}
    </>
  );
}
