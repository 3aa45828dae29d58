/** One attribute: all that is said of it; what its values are stays as long as goods have any. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type AttributeFields, type DictionaryRow, api, attributeFields } from '@velvet-shelf/contract';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { PutAway, type PutAwayChange } from '../design/PutAway';
import { count, linesOf, plural } from '../design/words';
import { MergeForm } from '../design/MergeForm';
import { ComputedFields, computedFields, computedOf, computedTyped } from './ComputedFields';
import { KindFields, kindFields, kindTyped } from './KindFields';
import { KindForm } from './KindForm';

/** What is typed: lists as lines, choices as words. */
const asked = attributeFields.omit({ computed: true }).extend({
  ...kindFields,
  ...computedFields,
  aliases: z.string().transform(linesOf),
  values: z.string().transform(linesOf),
});

const blank: AttributeFields = {
  label: '',
  type: 'text',
  many: false,
  perLanguage: false,
  level: 'variant',
  dimension: null,
  role: null,
  aliases: [],
  group: 'Own',
  help: '',
  computed: null,
};

export function AttributeForm({
  attribute,
  goods = 0,
  alike = [],
  all = [],
  onDone,
}: {
  attribute?: DictionaryRow;
  /** That have a value of it. */
  goods?: number;
  /** Others of its kind, with which it may be made one. */
  alike?: readonly DictionaryRow[];
  /** What it may follow from. */
  all?: readonly DictionaryRow[];
  onDone: (id: number) => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const was: AttributeFields = attribute ?? blank;
  const form = useFields(asked, {
    ...kindTyped(was),
    ...computedTyped(was.computed, all),
    label: was.label,
    level: was.level,
    group: was.group,
    help: was.help,
    aliases: was.aliases.join('\n'),
    values: '',
  });
  const { control } = form;
  const type = useWatch({ control, name: 'type' });
  const done = (id: number) => {
    void queries.invalidateQueries();
    onDone(id);
  };
  const save = useMutation({
    mutationFn: async ({ values, computedKind, computedOf: of, computedUnit, ...given }: z.output<typeof asked>) => {
      const { type } = given;
      const fields: AttributeFields = {
        ...given,
        dimension: type === 'measure' ? given.dimension : null,
        computed: computedOf({ computedKind, computedOf: of, computedUnit, type }),
      };
      if (attribute === undefined) {
        const { ids } = await call(api.dictionary.add, { body: { attributes: [{ ...fields, values }] } });
        return ids[0] ?? 0;
      }
      await call(api.dictionary.change, {
        params: { id: attribute.id },
        body: { to: fields, was: attributeFields.parse(attribute) },
      });
      return attribute.id;
    },
    onSuccess: (id) => {
      tell('Kept');
      done(id);
    },
  });
  const away = useMutation({
    mutationFn: ({ id, ...body }: PutAwayChange & { id: number }) =>
      call(api.dictionary.change, { params: { id }, body }),
    onSuccess: () => done(attribute?.id ?? 0),
  });
  const stays = goods > 0;
  const [isMerging, setMerging] = useState(false);
  const [isChanging, setChanging] = useState(false);
  if (isChanging && attribute)
    return <KindForm attribute={attribute} onDone={done} onCancel={() => setChanging(false)} />;
  if (isMerging && attribute)
    return (
      <MergeForm
        name={attribute.label}
        choices={alike.map(({ id, label }) => ({ id, name: label }))}
        effect={(into) =>
          `${plural(goods, 'product has', 'products have')} a value of ${attribute.label}; where they have none of ${into} it becomes that. Columns, fills and conditions that name ${attribute.label} will mean ${into}.`
        }
        merge={(into) => call(api.dictionary.merge, { params: { id: attribute.id }, body: { into } })}
        onDone={() => setMerging(false)}
        onCancel={() => setMerging(false)}
      />
    );
  return (
    <Form form={form} onSend={(fields) => save.mutate(fields)} error={save.error ?? away.error} columns gap={3}>
      <Box as="h2" textSize={22}>
        {attribute?.label ?? 'New attribute'}
      </Box>
      {stays && (
        <Box small muted>
          {count(goods)} goods have a value of it.
        </Box>
      )}
      <Field control={control} name="label" label="Name" autoFocus={attribute === undefined} required />
      <Box columns="1fr 1fr" gap={2.5}>
        <KindFields disabled={stays} />
        <Field
          control={control}
          name="level"
          label="Entered"
          options={[
            ['variant', 'on each variant'],
            ['family', 'once for the family'],
          ]}
        />
        <Field control={control} name="group" label="Group" />
      </Box>
      <Field control={control} name="help" label="What is meant" multiline helperText="Shown where it is entered" />
      <ComputedFields attribute={attribute?.key} all={all} />
      <Field
        control={control}
        name="aliases"
        label="Other names in suppliers’ files"
        multiline
        minRows={2}
        helperText="One a line"
      />
      {type === 'choice' && attribute === undefined && (
        <Field
          control={control}
          name="values"
          label="Its list"
          multiline
          minRows={4}
          helperText="One value a line; paste a column"
        />
      )}
      <Box row>
        <Button type="submit" variant="contained" disabled={save.isPending}>
          {attribute ? 'Keep' : 'Make the attribute'}
        </Button>
        {attribute && (
          <PutAway
            of={{ name: attribute.label, putAway: attribute.putAway }}
            disabled={away.isPending}
            onChange={(body) => away.mutate({ id: attribute.id, ...body })}
          />
        )}
        {attribute && stays && (
          <Button color="inherit" onClick={() => setChanging(true)}>
            Change what it is…
          </Button>
        )}
        {attribute && alike.length > 0 && (
          <Button color="inherit" onClick={() => setMerging(true)}>
            Make one with another…
          </Button>
        )}
      </Box>
    </Form>
  );
}
