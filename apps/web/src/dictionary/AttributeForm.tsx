/** One attribute: all that is said of it; what its values are stays as long as goods have any. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type AttributeFields, type DictionaryRow, api, attributeFields } from '@velvet-shelf/contract';
import { attributeTypes, dimensions, roles } from '@velvet-shelf/core/values';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { count, yesNo, yesOrNo } from '../design/words';
import { roleWords, spaced, typeWords } from './words';

const linesOf = (text: string) =>
  text
    .split(/[\n|]/)
    .map((line) => line.trim())
    .filter(Boolean);

/** What is typed: lists as lines, choices as words. */
const asked = attributeFields.extend({
  many: yesOrNo,
  perLanguage: yesOrNo,
  dimension: z.string().transform((text) => (text === '' ? null : text)),
  role: z.string().transform((text) => (text === '' ? null : text)),
  aliases: z.string().transform(linesOf),
  values: z.string().transform(linesOf),
});

const word = (is: boolean) => (is ? 'true' : 'false');
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
};

export function AttributeForm({
  attribute,
  goods = 0,
  onDone,
}: {
  attribute?: DictionaryRow;
  /** That have a value of it. */
  goods?: number;
  onDone: (id: number) => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const was: AttributeFields = attribute ?? blank;
  const form = useFields(asked, {
    label: was.label,
    type: was.type,
    level: was.level,
    group: was.group,
    many: word(was.many),
    perLanguage: word(was.perLanguage),
    dimension: was.dimension ?? '',
    role: was.role ?? '',
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
    mutationFn: async ({ values, ...given }: z.output<typeof asked>) => {
      const fields = attributeFields.parse({ ...given, dimension: given.type === 'measure' ? given.dimension : null });
      if (attribute === undefined) {
        const { ids } = await call(api.dictionary.add, { body: { attributes: [{ ...fields, values }] } });
        return ids[0] ?? 0;
      }
      const { label, many, perLanguage, level, dimension, role, aliases, group } = attribute;
      await call(api.dictionary.change, {
        params: { id: attribute.id },
        body: {
          to: fields,
          was: { label, type: attribute.type, many, perLanguage, level, dimension, role, aliases, group },
        },
      });
      return attribute.id;
    },
    onSuccess: (id) => {
      tell('Kept');
      done(id);
    },
  });
  const away = useMutation({
    mutationFn: (row: DictionaryRow) =>
      call(api.dictionary.change, {
        params: { id: row.id },
        body: { to: { putAway: !row.putAway }, was: { putAway: row.putAway } },
      }),
    onSuccess: () => done(attribute?.id ?? 0),
  });
  const stays = goods > 0;
  return (
    <Form form={form} onSend={(fields) => save.mutate(fields)} error={save.error ?? away.error} columns gap={3}>
      <Box as="h2" textSize={22}>
        {attribute?.label ?? 'New attribute'}
      </Box>
      {stays && (
        <Box small muted>
          {count(goods)} goods have a value of it: what its values are stays.
        </Box>
      )}
      <Field control={control} name="label" label="Name" autoFocus={attribute === undefined} required />
      <Box columns="1fr 1fr" gap={2.5}>
        <Field
          control={control}
          name="type"
          label="Is"
          disabled={stays}
          options={attributeTypes.map((each) => [each, typeWords[each]])}
        />
        {type === 'measure' ? (
          <Field
            control={control}
            name="dimension"
            label="Of"
            disabled={stays}
            options={dimensions.map((each) => [each, spaced(each)])}
          />
        ) : (
          <Field
            control={control}
            name="many"
            label="Holds"
            disabled={stays}
            options={yesNo('several values', 'one value')}
          />
        )}
        <Field
          control={control}
          name="perLanguage"
          label="Languages"
          disabled={stays}
          options={yesNo('a value in each language', 'the same in all languages')}
        />
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
        <Field
          control={control}
          name="role"
          label="Known as"
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          options={[['', 'nothing in particular'], ...roles.map((role) => [role, roleWords(role)] as const)]}
        />
      </Box>
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
          <Button color="inherit" disabled={away.isPending} onClick={() => away.mutate(attribute)}>
            {attribute.putAway ? 'Take back' : 'Put away'}
          </Button>
        )}
      </Box>
    </Form>
  );
}
