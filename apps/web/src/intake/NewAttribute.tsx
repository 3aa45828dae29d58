/** A column without a home becomes an attribute in place: guessed from its name and cells, corrected, shown before it is made. */
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import { useWatch } from 'react-hook-form';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';
import { KindFields, kindFields, kindTyped } from '../dictionary/KindFields';
import { batchWork } from './work';

type Homeless = BatchAnswer['homeless'][number];
const { shape } = api.intake.make.body.shape.attributes.unwrap().element;

const asked = z.object({ label: shape.label, ...kindFields });

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
    ...kindTyped({ ...guess, role: null }),
    label: guess.label,
  });
  const { control } = form;
  const type = useWatch({ control, name: 'type' });
  const make = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: (fields: z.output<typeof asked>) =>
      call(api.intake.make, {
        params: { id: batch.id },
        body: {
          attributes: [{ column, unit, ...fields, values: fields.type === 'choice' ? values : [] }],
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
        <KindFields />
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
