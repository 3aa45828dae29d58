/** Goods that the channel was asked to let go without an attribute, and what it said. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ExemptionAnswer, api } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import { useState } from 'react';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { ConditionTree, plainCondition } from '../catalog/ConditionTree';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { State } from '../design/State';
import { day, plural, sayBecoming } from '../design/words';
import { useCompared } from './compared';

const stateWords: Record<ExemptionAnswer['state'], { words: string; is: string }> = {
  asked: { words: 'asked for', is: 'sent' },
  granted: { words: 'granted', is: 'live' },
  refused: { words: 'refused', is: 'refused' },
};

const byWords = { maker: 'all of a maker', goods: 'one by its SKU', condition: 'all that meet a condition' } as const;
const whomWords = {
  maker: 'Maker, as the goods have it',
  goods: 'SKU',
  condition: 'What these goods are called together',
} as const;

/** Of an account; of one attribute alone where one is given, for goods of a maker that is proposed. */
export function Exemptions({
  accountId,
  channel,
  attribute,
  maker,
}: {
  accountId: number;
  channel?: string;
  attribute?: string;
  maker?: string | null;
}) {
  const [isAsking, setAsking] = useState(false);
  const answer = useQuery(ask(api.accounts.exemptions, { params: { id: accountId } })).data;
  const isOf = (key: string) => attribute === undefined || key === attribute;
  const attributes = answer?.attributes.filter(({ key }) => isOf(key)) ?? [];
  if (!answer || attributes.length === 0) return null;
  return (
    <Box>
      <Box as="h3" below={1}>
        {channel === undefined ? 'Let go without' : `Or let go without it on ${channel}`}
      </Box>
      {answer.items
        .filter((item) => isOf(item.attribute))
        .map((item) => (
          <Exempted key={`${item.id} ${item.state}`} item={item} />
        ))}
      {isAsking ? (
        <AskFor {...{ accountId, attributes, maker }} onDone={() => setAsking(false)} />
      ) : (
        <Button color="secondary" sx={{ p: 0 }} onClick={() => setAsking(true)}>
          Ask for an exemption
        </Button>
      )}
    </Box>
  );
}

function Exempted({ item }: { item: ExemptionAnswer }) {
  const queries = useQueryClient();
  const tell = useTell();
  const params = { id: item.id };
  const set = useMutation({
    mutationFn: (state: ExemptionAnswer['state'] | null) =>
      state === null
        ? call(api.accounts.removeExemption, { params })
        : call(api.accounts.setExemption, { params, body: { state, was: item.state } }),
    onSuccess: (effect) => {
      tell(sayBecoming(effect, true));
      void queries.invalidateQueries();
    },
  });
  const { words, is } = stateWords[item.state];
  return (
    <Box line="top" pad={[2, 0]}>
      <Box row gap={3} wrap>
        <Box grow>
          <b>{item.whom}</b> without {item.label} · {plural(item.goods, 'listing')}
        </Box>
        <State is={is}>
          {words}, {day(item.at)}
        </State>
      </Box>
      <Box small muted>
        {item.reason}
      </Box>
      <Box row gap={3}>
        {item.state !== 'granted' && (
          <Button color="secondary" sx={{ p: 0 }} disabled={set.isPending} onClick={() => set.mutate('granted')}>
            It was granted
          </Button>
        )}
        {item.state !== 'refused' && (
          <Button color="secondary" sx={{ p: 0 }} disabled={set.isPending} onClick={() => set.mutate('refused')}>
            It was refused
          </Button>
        )}
        <Button
          color="inherit"
          sx={{ p: 0 }}
          aria-label={`Take ${item.whom} without ${item.label} back`}
          disabled={set.isPending}
          onClick={() => set.mutate(null)}
        >
          Take back
        </Button>
      </Box>
      {set.error && <ProblemBox error={set.error} />}
    </Box>
  );
}

type Body = z.output<typeof api.accounts.askExemption.body>;

function AskFor({
  accountId,
  attributes,
  maker,
  onDone,
}: {
  accountId: number;
  attributes: readonly { key: string; label: string; by: readonly Body['by'][] }[];
  maker?: string | null | undefined;
  onDone: () => void;
}) {
  const queries = useQueryClient();
  const [first] = attributes;
  const form = useFields(api.accounts.askExemption.body, {
    attribute: first?.key ?? '',
    by: first?.by[0] ?? 'maker',
    whom: first?.by[0] === 'maker' ? (maker ?? '') : '',
    reason: '',
  });
  const compared = useCompared().data ?? [];
  const [condition, setCondition] = useState<Condition>({ all: [] });
  const send = useMutation({
    mutationFn: (body: Body) =>
      call(api.accounts.askExemption, {
        params: { id: accountId },
        body: body.by === 'condition' ? { ...body, condition: plainCondition(condition) } : body,
      }),
    onSuccess: () => {
      onDone();
      void queries.invalidateQueries();
    },
  });
  const { control } = form;
  const by = attributes.find(({ key }) => key === form.watch('attribute'))?.by ?? [];
  return (
    <Form form={form} onSend={(body) => send.mutate(body)} onCancel={onDone} error={send.error} columns gap={3}>
      <Field
        control={control}
        name="attribute"
        label="Without"
        options={attributes.map(({ key, label }) => [key, label])}
      />
      <Field control={control} name="by" label="For" options={by.map((way) => [way, byWords[way]])} />
      <Field control={control} name="whom" label={whomWords[form.watch('by')]} />
      {form.watch('by') === 'condition' && (
        <ConditionTree label="Goods it is for" condition={condition} attributes={compared} onChange={setCondition} />
      )}
      <Field control={control} name="reason" label="Reason" multiline />
      <Box row>
        <Button type="submit" variant="contained" disabled={send.isPending}>
          Note that it was asked for
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
