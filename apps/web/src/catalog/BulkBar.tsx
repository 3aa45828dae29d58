/** What can be done to the goods that are chosen in the grid. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Chosen, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { MenuButton } from '../design/MenuButton';
import { plural } from '../design/words';
import { AsideForm } from './AsideForm';
import { SayForm } from './SayForm';
import type { Choosing } from './choosing';

export function BulkBar({
  choosing: { isAll, all, none },
  chosen,
  rows,
  all: ofAll = 'the view',
  onDone,
}: {
  choosing: Choosing;
  chosen: Chosen;
  /** Of the view; undefined until they are counted. */
  rows: number | undefined;
  /** What all of them are all of. */
  all?: string;
  onDone: () => void;
}) {
  const [form, setForm] = useState<'aside' | 'value'>();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const tell = useTell();
  const counted = useQuery({ ...ask(api.bulk.count, { body: { chosen } }), gcTime: 0, retry: false });
  const goods = counted.data
    ? `${plural(counted.data.variants, 'variant')} of ${plural(counted.data.families, 'product')}`
    : '…';
  const done = (words: string) => {
    tell(words);
    setForm(undefined);
    none();
    onDone();
    void queries.invalidateQueries();
  };
  const read = useMutation({
    mutationFn: () => call(api.enrichment.find, { body: { chosen } }),
    onSuccess: () => void navigate('/catalog/found'),
  });
  const proof = useMutation({
    mutationFn: () => call(api.proofreading.begin, { body: { chosen } }),
    onSuccess: () => void navigate('/catalog/proofread'),
  });
  const back = useMutation({
    mutationFn: () => call(api.bulk.bringBack, { body: { chosen } }),
    onSuccess: ({ variants }) => done(`${plural(variants, 'variant')} brought back`),
  });
  const failed = back.error ?? read.error ?? proof.error;
  return (
    <Box as="section" aria-label="Chosen goods" surface="brass" rounded pad={[1.5, 3]} below={2} around={[0, 4, 2, 0]}>
      <Box row wrap>
        <b>{goods}</b>
        {!isAll && (
          <Button color="secondary" sx={{ p: 0 }} onClick={all}>
            Choose all of {ofAll}
            {rows !== undefined && ` (${plural(rows, 'row')})`}
          </Button>
        )}
        <Box as="span" grow />
        <MenuButton label="Their texts">
          {(close) => [
            <MenuItem key="find" disabled={read.isPending} onClick={() => read.mutate(undefined, { onSettled: close })}>
              Find values in them
            </MenuItem>,
            <MenuItem
              key="proof"
              disabled={proof.isPending}
              onClick={() => proof.mutate(undefined, { onSettled: close })}
            >
              Proofread them
            </MenuItem>,
            <MenuItem key="compose" onClick={() => void navigate('/catalog/compose', { state: { chosen } })}>
              Compose one…
            </MenuItem>,
          ]}
        </MenuButton>
        <Button color="inherit" onClick={() => void navigate('/catalog/families', { state: { chosen } })}>
          Make families…
        </Button>
        <Button color="inherit" onClick={() => setForm('value')}>
          Give a value…
        </Button>
        <Button color="inherit" onClick={() => setForm('aside')}>
          Set aside…
        </Button>
        <Button color="inherit" disabled={back.isPending} onClick={() => back.mutate()}>
          Bring back
        </Button>
        <Button color="inherit" onClick={none}>
          Choose none
        </Button>
      </Box>
      {failed && <ProblemBox error={failed} />}
      {form === 'aside' && <AsideForm chosen={chosen} onDone={done} onCancel={() => setForm(undefined)} />}
      {form === 'value' && <SayForm chosen={chosen} onDone={done} onCancel={() => setForm(undefined)} />}
    </Box>
  );
}
