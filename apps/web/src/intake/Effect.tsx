/** What applying would do to listings, found by trying it for real and rolling it back. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import type { BatchAnswer, EffectAnswer } from '@velvet-shelf/contract';
import { useState } from 'react';
import { DataTable } from '../design/DataTable';
import { State } from '../design/State';
import { count, plural } from '../design/words';

export function EffectBar({ batch }: { batch: BatchAnswer }) {
  const [open, setOpen] = useState(false);
  const { effect } = batch;
  if (batch.kind === 'round-trip' || !['tried', 'applied'].includes(batch.state)) return null;
  if (!effect)
    return batch.state === 'tried' ? (
      <Box as="p" small muted around={[0, 0, 2]} role="status">
        Finding out what it would do to listings…
      </Box>
    ) : null;
  const parts = sayEffect(effect);
  return (
    <Box surface="brass" rounded pad={[2, 3]} below={2}>
      <Box small wrap row gap={3.5}>
        <b>{batch.state === 'applied' ? 'Foreseen for listings:' : 'To listings it would do this:'}</b>
        {parts.length === 0 ? (
          <span>nothing</span>
        ) : (
          parts.map(([state, words]) => (
            <State key={words} is={state}>
              {words}
            </State>
          ))
        )}
        {effect.rows < effect.of && (
          <Box as="span" muted>
            tried on the first {count(effect.rows)} of {count(effect.of)} rows
          </Box>
        )}
        {effect.examples.length > 0 && (
          <Button size="small" color="secondary" sx={{ p: 0, ml: 'auto' }} onClick={() => setOpen(!open)}>
            {open ? 'Hide examples' : 'Show examples'}
          </Button>
        )}
      </Box>
      {open && (
        <Box scroll maxHigh={180} above={1.5}>
          <DataTable
            label="Examples"
            headless
            rows={effect.examples}
            keyOf={({ kind, place, sku, title }) => JSON.stringify([kind, place, sku, title])}
            columns={[
              { head: 'SKU', cell: ({ sku }) => sku ?? '' },
              { head: 'Title', cell: ({ title }) => title },
              { head: 'Place', cell: ({ place }) => place, look: { muted: true } },
              {
                head: 'What becomes of it',
                cell: ({ before, after }) => (
                  <>
                    {before ?? 'not listed'} → <b>{after ?? 'not listed'}</b>
                  </>
                ),
              },
            ]}
          />
        </Box>
      )}
    </Box>
  );
}

function sayEffect(effect: EffectAnswer): [state: string, words: string][] {
  const all: [number, string, string][] = [
    [effect.becameReady, 'ready', `${count(effect.becameReady)} would become ready`],
    [effect.becameBlocked, 'blocked', `${count(effect.becameBlocked)} would become blocked`],
    [effect.added, 'sent', `${plural(effect.added, 'listing')} would be added`],
    [effect.removed, 'none', `${plural(effect.removed, 'listing')} would go`],
    [effect.priceChanges, 'advice', `${plural(effect.priceChanges, 'price')} would change on channels`],
  ];
  return all.flatMap(([n, state, words]) => (n > 0 ? [[state, words] as [string, string]] : []));
}
