/** Which goods a place gets: a condition that keeps itself up to date, and goods put in or kept out by hand; what a change does is shown first. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Handed, api } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import { useState } from 'react';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { ConditionTree, plainCondition } from '../catalog/ConditionTree';
import { Box } from '../design/Box';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { count, plural, sayBecoming } from '../design/words';
import { HandPicked } from './HandPicked';
import { useCompared } from './compared';

type Held = z.output<typeof api.channels.assortment.answer>;

export function AssortmentPage({ placeId }: { placeId: number }) {
  const held = useQuery(ask(api.channels.assortment, { params: { id: placeId } }));
  return (
    <Box grow scroll pad={[3, 6, 6]}>
      <Loaded query={held}>
        {(data) => <Editor key={JSON.stringify([data.condition, data.hand])} placeId={placeId} held={data} />}
      </Loaded>
    </Box>
  );
}

const bodyOf = (condition: Condition, hand: readonly Handed[]) => ({
  condition: plainCondition(condition),
  hand: hand.map(({ product, isIn }) => ({ product, isIn })),
});

function Editor({ placeId, held }: { placeId: number; held: Held }) {
  const params = { id: placeId };
  const queries = useQueryClient();
  const tell = useTell();
  const attributes = useCompared().data ?? [];
  const [condition, setCondition] = useState<Condition>(held.condition);
  const [hand, setHand] = useState<Handed[]>(held.hand);
  const to = bodyOf(condition, hand);
  const was = bodyOf(held.condition, held.hand);
  const isChanged = JSON.stringify(to) !== JSON.stringify(was);
  const tried = useMutation({ mutationFn: () => call(api.channels.tryAssortment, { params, body: to }) });
  const save = useMutation({
    mutationFn: () => call(api.channels.saveAssortment, { params, body: { to, was } }),
    onSuccess: (effect) => {
      tell(`Kept; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
    },
  });
  const change = (work: () => void) => {
    tried.reset();
    work();
  };
  return (
    <>
      <Box as="p" muted around={[0, 0, 2.5]}>
        {count(held.listings)} listings. Goods that come to meet the condition join by themselves, goods that meet it no
        more leave.
      </Box>
      <ConditionTree
        label="Condition"
        condition={condition}
        attributes={attributes}
        onChange={(next) => change(() => setCondition(next))}
      />
      <Box as="h2" around={[5, 0, 1]}>
        By hand
      </Box>
      <Box as="p" small muted around={[0, 0, 2]}>
        Whatever the condition says. A family stands for all its variants.
      </Box>
      <HandPicked hand={hand} onChange={(next) => change(() => setHand(next))} />
      <Box row above={4} gap={2}>
        <Button variant="outlined" disabled={!isChanged || tried.isPending} onClick={() => tried.mutate()}>
          {tried.isPending ? 'Trying…' : 'See what it adds and takes away'}
        </Button>
        {isChanged && (
          <Button
            color="inherit"
            onClick={() =>
              change(() => {
                setCondition(held.condition);
                setHand(held.hand);
              })
            }
          >
            Put back
          </Button>
        )}
      </Box>
      {tried.error && <ProblemBox error={tried.error} />}
      {save.error && <ProblemBox error={save.error} />}
      {tried.data && (
        <Tried tried={tried.data} isBusy={save.isPending} onLeave={() => tried.reset()} onSave={() => save.mutate()} />
      )}
    </>
  );
}

function Tried({
  tried,
  isBusy,
  onLeave,
  onSave,
}: {
  tried: z.output<typeof api.channels.tryAssortment.answer>;
  isBusy: boolean;
  onLeave: () => void;
  onSave: () => void;
}) {
  const samples = (joins: boolean) =>
    tried.samples
      .filter((sample) => sample.joins === joins)
      .map(({ sku, title, id }) => sku ?? title ?? `product ${id}`)
      .join(', ');
  return (
    <div className="effect" role="status">
      <Box grow>
        <Box serif>
          {plural(tried.joins, 'variant joins', 'variants join')}, {plural(tried.leaves, 'leaves', 'leave')},{' '}
          {plural(tried.stays, 'stays', 'stay')}
        </Box>
        <Box muted small>
          {tried.joins > 0 && `Joining: ${samples(true)}${tried.joins > 12 ? ' …' : ''}. `}
          {tried.leaves > 0 && `Leaving: ${samples(false)}${tried.leaves > 12 ? ' …' : ''}. `}
          {tried.sentLeave > 0 &&
            `${plural(tried.sentLeave, 'of those that leave is', 'of those that leave are')} known to the channel, and will be withdrawn with the next file.`}
        </Box>
      </Box>
      <Button variant="outlined" color="inherit" onClick={onLeave}>
        Leave it
      </Button>
      <Button variant="contained" disabled={isBusy} onClick={onSave}>
        Keep it
      </Button>
    </div>
  );
}
