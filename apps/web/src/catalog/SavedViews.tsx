/** Views kept under a name: a button for those to hand, a list of all, and a form to keep the one that is shown or change it. */
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import MenuItem from '@mui/material/MenuItem';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type KeptFields, type SavedView, type View, api } from '@velvet-shelf/contract';
import { canonical } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { MenuButton } from '../design/MenuButton';
import { Removal } from '../design/Removal';

const isSame = (a: View, b: View) => canonical(a) === canonical(b);

/** Those to hand, and the list of all. */
export function ViewButtons({
  now,
  onShow,
  onForm,
}: {
  now: View;
  onShow: (saved: SavedView) => void;
  /** The form is asked for: to keep what is shown, or to change a view of one's own. */
  onForm: (of: 'new' | SavedView) => void;
}) {
  const views = useQuery({ ...ask(api.savedViews.list), staleTime: 60_000 });
  const all = views.data?.items ?? [];
  const current = all.find(({ view }) => isSame(view, now));
  const [mine, others] = [all.filter(({ isMine }) => isMine), all.filter(({ isMine }) => !isMine)];
  const item = (saved: SavedView, close: () => void) => (
    <MenuItem
      key={saved.id}
      selected={saved === current}
      onClick={() => {
        close();
        onShow(saved);
      }}
    >
      {saved.name}
      {!saved.isMine && (
        <Box as="span" small muted before={2}>
          {saved.owner}’s
        </Box>
      )}
    </MenuItem>
  );
  return (
    <>
      {all
        .filter(({ isToHand }) => isToHand)
        .map((saved) => (
          <Button
            key={saved.id}
            size="small"
            variant={saved === current ? 'contained' : 'outlined'}
            color={saved === current ? 'primary' : 'inherit'}
            aria-pressed={saved === current}
            onClick={() => onShow(saved)}
          >
            {saved.name}
          </Button>
        ))}
      <MenuButton label="Views" variant="text" color="secondary" sx={{ p: '2px 6px' }}>
        {(close) => [
          ...mine.map((saved) => item(saved, close)),
          ...(mine.length > 0 && others.length > 0 ? [<Divider key="others" />] : []),
          ...others.map((saved) => item(saved, close)),
          ...(all.length > 0 ? [<Divider key="keep" />] : []),
          ...(current?.isMine
            ? [
                <MenuItem
                  key="change"
                  onClick={() => {
                    close();
                    onForm(current);
                  }}
                >
                  Change “{current.name}”…
                </MenuItem>,
              ]
            : []),
          <MenuItem
            key="new"
            disabled={current?.isMine === true}
            onClick={() => {
              close();
              onForm('new');
            }}
          >
            Keep what is shown as a view…
          </MenuItem>,
        ]}
      </MenuButton>
    </>
  );
}

const choice = (no: string, yes: string) =>
  [
    ['no', no],
    ['yes', yes],
  ] as const;
const yesNo = z.enum(['no', 'yes']).transform((word) => word === 'yes');
const asked = z.object({
  name: api.savedViews.keep.body.shape.name,
  shared: yesNo,
  toHand: yesNo,
  withColumns: yesNo,
});
const word = (is: boolean) => (is ? ('yes' as const) : ('no' as const));

export function ViewForm({
  of,
  now,
  onDone,
}: {
  of: 'new' | SavedView;
  /** What is shown, in which columns. */
  now: Pick<KeptFields, 'view' | 'columns'>;
  onDone: () => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const held = of === 'new' ? undefined : of;
  const form = useFields(asked, {
    name: held?.name ?? '',
    shared: word(held?.isShared ?? false),
    toHand: word(held?.isToHand ?? true),
    withColumns: word(held ? held.columns !== null : true),
  });
  const done = (words: string) => {
    tell(words);
    void queries.invalidateQueries({ queryKey: keyOf(api.savedViews.list) });
    onDone();
  };
  const keep = useMutation({
    mutationFn: async (fields: KeptFields) => {
      if (!held) return call(api.savedViews.keep, { body: fields });
      const { name, isShared, isToHand, view, columns } = held;
      return call(api.savedViews.change, {
        params: { id: held.id },
        body: { to: fields, was: { name, isShared, isToHand, view, columns } },
      });
    },
    onSuccess: (_, { name }) => done(held ? `${name} is changed` : `${name} is kept`),
  });
  return (
    <Form
      form={form}
      onSend={({ name, shared, toHand, withColumns }) =>
        keep.mutate({
          name,
          isShared: shared,
          isToHand: toHand,
          view: now.view,
          columns: withColumns ? now.columns : null,
        })
      }
      onCancel={onDone}
      error={keep.error}
    >
      <Box row wrap align="start" above={1.5} below={2.5}>
        <Field control={form.control} name="name" label="Name of the view" autoFocus />
        <Field control={form.control} name="shared" label="Who sees it" options={choice('Only me', 'Everybody')} />
        <Field
          control={form.control}
          name="toHand"
          label="Where"
          options={choice('In the list', 'To hand, as a button')}
        />
        <Field
          control={form.control}
          name="withColumns"
          label="Columns"
          options={choice('Those of whoever looks', 'Those shown now')}
        />
        <Button type="submit" variant="contained" disabled={keep.isPending}>
          Keep the view
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
        {held && (
          <Removal
            of={held.name}
            goes={held.isShared ? 'Nobody sees it any more; the goods stay.' : 'The goods stay.'}
            remove={() => call(api.savedViews.remove, { params: { id: held.id } })}
            onDone={onDone}
          />
        )}
      </Box>
    </Form>
  );
}
