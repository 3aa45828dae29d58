/** Presets of a channel: bundles of fills by name, in the order they are asked; which goods each is applied to is tried before it is kept. */
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type PresetAnswer, type PresetBody, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { plainCondition } from '../catalog/ConditionTree';
import { Box } from '../design/Box';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { Ordered } from '../design/Ordered';
import { count, plural, sayBecoming } from '../design/words';
import { PresetEditor } from './PresetEditor';

/** As it is worked on; `key` tells one that is not kept yet from the others. */
export interface Draft extends Omit<PresetAnswer, 'id' | 'goods'> {
  key: string;
  id: number | null;
}

const bodyOf = (drafts: readonly Omit<Draft, 'key'>[]): PresetBody[] =>
  drafts.map(({ id, name, condition, hand }) => ({
    ...{ id, name: name.trim() },
    condition: condition && plainCondition(condition),
    hand: hand.map(({ product, isIn }) => ({ product, isIn })),
  }));

export function Presets({ placeId }: { placeId: number }) {
  const held = useQuery(ask(api.channels.presets, { params: { id: placeId } }));
  // Which of them is open outlives their being kept.
  const [at, setAt] = useState(0);
  return (
    <Loaded query={held}>
      {({ items }) => (
        <Editor key={JSON.stringify(bodyOf(items))} placeId={placeId} held={items} at={at} onAt={setAt} />
      )}
    </Loaded>
  );
}

function Editor({
  placeId,
  held,
  at,
  onAt,
}: {
  placeId: number;
  held: readonly PresetAnswer[];
  at: number;
  onAt: (at: number) => void;
}) {
  const params = { id: placeId };
  const before = held.map((preset): Draft => ({ ...preset, key: String(preset.id) }));
  const [drafts, setDrafts] = useState(before);
  const queries = useQueryClient();
  const tell = useTell();
  const to = bodyOf(drafts);
  const was = bodyOf(held);
  const isChanged = JSON.stringify(to) !== JSON.stringify(was);
  const isNamed = to.every(({ name }) => name !== '');
  const tried = useQuery({
    ...ask(api.channels.tryPresets, { params, body: { presets: to } }),
    enabled: isChanged && isNamed,
    retry: false,
  });
  const save = useMutation({
    mutationFn: () => call(api.channels.savePresets, { params, body: { to, was } }),
    onSuccess: (effect) => {
      tell(`Kept; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
    },
  });
  const goodsOf = ({ id }: Draft, place: number) =>
    isChanged ? tried.data?.goods[place] : held.find((preset) => preset.id === id)?.goods;
  const draft = drafts[Math.min(at, drafts.length - 1)];
  const chosen = draft?.key;
  const add = () => {
    const key = `new ${drafts.length + 1} ${drafts.map((each) => each.key).join()}`;
    setDrafts([...drafts, { key, id: null, name: '', condition: null, hand: [], fills: [] }]);
    onAt(drafts.length);
  };
  const error = save.error ?? tried.error;
  return (
    <Box grow row align="stretch" gap={0} minHigh={0}>
      <Box scroll wide={340} fixed line="right" pad={[3, 4, 5, 6]}>
        <Box as="p" small muted around={[0, 0, 3]}>
          A preset fills some attributes otherwise for its goods. Where several are applied to the same goods, the upper
          one stands before the others.
        </Box>
        <Ordered
          label="Presets"
          ids={drafts.map(({ key }) => key)}
          nameOf={(key) => drafts.find((each) => each.key === key)?.name ?? ''}
          onOrder={(keys) => {
            setDrafts(keys.flatMap((key) => drafts.find((each) => each.key === key) ?? []));
            onAt(keys.findIndex((key) => key === chosen));
          }}
        >
          {(key, place, handle) => {
            const each = drafts[place - 1];
            if (!each) return null;
            const goods = goodsOf(each, place - 1);
            const name = each.name.trim() || 'A new preset';
            return (
              <Box row gap={1.5} pad={[2, 2]} below={1.5} framed rounded surface="card" chosen={key === chosen}>
                <span className="drag" {...handle} aria-label={`Move ${name}, place ${place}`}>
                  <DragIndicatorIcon fontSize="small" />
                </span>
                <Box grow minWide={0}>
                  <button type="button" className="value" aria-pressed={key === chosen} onClick={() => onAt(place - 1)}>
                    <Box as="b" strong>
                      {name}
                    </Box>
                  </button>
                  <Box small muted>
                    {plural(each.fills.length, 'fill')} · {each.condition === null ? 'by hand' : 'by condition'}
                  </Box>
                </Box>
                <Box as="span" serif textSize={18} strong fixed toRight title="Listings it is applied to">
                  {goods === undefined ? '…' : count(goods)}
                </Box>
              </Box>
            );
          }}
        </Ordered>
        <Button color="secondary" onClick={add}>
          Another preset
        </Button>
      </Box>
      <Box col grow surface="card">
        <Box grow scroll pad={[3.5, 6]}>
          {draft ? (
            <PresetEditor
              key={draft.key}
              placeId={placeId}
              draft={draft}
              onChange={(change) =>
                setDrafts(drafts.map((each) => (each.key === chosen ? { ...each, ...change } : each)))
              }
              onRemove={() => {
                setDrafts(drafts.filter(({ key }) => key !== chosen));
                onAt(0);
              }}
            />
          ) : (
            <Empty title="No presets yet">
              A preset is a bundle of fills with a name, such as one for bulky goods or one for a season. Goods get it
              by a condition or by hand.
            </Empty>
          )}
          {error && <ProblemBox error={error} />}
        </Box>
        {isChanged && (
          <div className="effect">
            <Box grow role="status" serif textSize={18}>
              {!isNamed
                ? 'Give each of them a name.'
                : tried.data && !tried.isPlaceholderData
                  ? sayBecoming(tried.data.effect)
                  : 'Trying it on the whole assortment…'}
            </Box>
            <Button variant="outlined" color="inherit" onClick={() => setDrafts(before)}>
              Put back
            </Button>
            <Button variant="contained" disabled={!isNamed || save.isPending} onClick={() => save.mutate()}>
              Keep them
            </Button>
          </div>
        )}
      </Box>
    </Box>
  );
}
