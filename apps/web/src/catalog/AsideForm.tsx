/** Sets goods aside: out of sight, or with some notices muted, until a day or for good. */
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { type AsideFields, type Chosen, api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { Field, Form, useFields } from '../design/Form';
import { day, plural, yesNo, yesOrNo } from '../design/words';

const fields = z.object({
  sight: yesOrNo,
  findings: yesOrNo,
  gaps: yesOrNo,
  until: z.union([z.literal(''), z.iso.date('Give the day as 2027-10-01')]),
  reason: z.string().trim().max(200),
});

export function AsideForm({
  chosen,
  onDone,
  onCancel,
}: {
  chosen: Chosen;
  onDone: (words: string) => void;
  onCancel: () => void;
}) {
  const form = useFields(fields, { sight: 'true', findings: 'true', gaps: 'true', until: '', reason: '' });
  const save = useMutation({
    mutationFn: (aside: AsideFields) => call(api.bulk.setAside, { body: { chosen, aside } }),
    onSuccess: ({ variants }, { until }) =>
      onDone(`${plural(variants, 'variant')} set aside${until === null ? '' : ` until ${day(until)}`}`),
  });
  return (
    <Form
      form={form}
      onSend={({ until, ...aside }) => save.mutate({ ...aside, until: until === '' ? null : until })}
      onCancel={onCancel}
      error={save.error}
      above={2}
    >
      <Box row wrap align="start" gap={[2, 3]}>
        <Field
          control={form.control}
          name="sight"
          label="The goods are"
          options={yesNo('out of sight', 'still shown')}
        />
        <Field
          control={form.control}
          name="findings"
          label="What blocks them is"
          options={yesNo('no cause to mend', 'a cause as ever')}
        />
        <Field
          control={form.control}
          name="gaps"
          label="What they lack is"
          options={yesNo('not asked for', 'asked for as ever')}
        />
        <Field
          control={form.control}
          name="until"
          type="date"
          label="Until"
          helperText="Without a day: for good"
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <Field control={form.control} name="reason" label="Why" />
        <Button type="submit" variant="contained" disabled={save.isPending}>
          Set aside
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
