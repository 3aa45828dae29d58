/** A column without a home becomes an attribute in place: guessed from its name and cells, corrected, shown before it is made. */
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import { attributeTypes, dimensions, roles } from '@velvet-shelf/core/values';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';
import { yesNo, yesOrNo } from '../design/words';
import { roleWords, spaced, typeWords } from '../dictionary/words';

type Homeless = BatchAnswer['homeless'][number];
const { shape } = api.intake.make.body.shape.attributes.unwrap().element;

const asked = z.object({
  label: shape.label,
  type: shape.type,
  many: yesOrNo,
  perLanguage: yesOrNo,
  dimension: z.string().transform((text) => (text === '' ? null : text)),
  role: z.string().transform((text) => (text === '' ? null : text)),
});

export function NewAttribute({
  batch,
  column: { column, values, unit, why, ...guess },
  onMade,
  onCancel,
}: {
  batch: BatchAnswer;
  column: Homeless;
  onMade: (batch: BatchAnswer) => void;
  onCancel: () => void;
}) {
  const form = useFields(asked, {
    label: guess.label,
    type: guess.type,
    many: guess.many ? 'true' : 'false',
    perLanguage: guess.perLanguage ? 'true' : 'false',
    dimension: guess.dimension ?? '',
    role: '',
  });
  const { control } = form;
  const type = useWatch({ control, name: 'type' });
  const make = useMutation({
    mutationFn: (fields: z.output<typeof asked>) =>
      call(api.intake.make, {
        params: { id: batch.id },
        body: {
          attributes: [
            { column, unit, ...fields, values: fields.type === 'choice' ? values : [] } as z.input<
              typeof api.intake.make.body
            >['attributes'] extends (infer Each)[] | undefined
              ? Each
              : never,
          ],
        },
      }),
    onSuccess: onMade,
  });
  return (
    <Form
      form={form}
      onSend={(fields) => make.mutate(fields)}
      onCancel={onCancel}
      error={make.error}
      columns
      gap={2}
      pad={[2, 0]}
    >
      <Box small muted>
        {why}
      </Box>
      <Field control={control} name="label" label="Name of the new attribute" autoFocus />
      <Box columns="1fr 1fr" gap={2}>
        <Field
          control={control}
          name="type"
          label="Is"
          options={attributeTypes.map((each) => [each, typeWords[each]])}
        />
        {type === 'measure' ? (
          <Field
            control={control}
            name="dimension"
            label="Of"
            options={dimensions.map((each) => [each, spaced(each)])}
          />
        ) : (
          <Field control={control} name="many" label="Holds" options={yesNo('several values', 'one value')} />
        )}
        <Field
          control={control}
          name="perLanguage"
          label="Languages"
          options={yesNo('by language', 'the same in all')}
        />
        <Field
          control={control}
          name="role"
          label="Known as"
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          options={[['', 'nothing in particular'], ...roles.map((role) => [role, roleWords(role)] as const)]}
        />
      </Box>
      {type === 'choice' && values.length > 0 && (
        <Box small muted>
          Its list: {values.join(', ')}
        </Box>
      )}
      <Box row>
        <Button type="submit" variant="contained" disabled={make.isPending}>
          Make it with the batch
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
