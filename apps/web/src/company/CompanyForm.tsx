/** The company's settings, changed with goods already in. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { useTell } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { yesOrNo } from '../design/words';
import { useWho } from '../session/who';
import { CompanyFields } from './CompanyFields';

const { body } = api.movingIn.change;
const asked = body.extend({
  pricesWithVat: yesOrNo,
  manyValues: z.string().transform(Number).pipe(body.shape.manyValues.unwrap()),
});

export function CompanyForm({ company }: { company: z.output<typeof api.company.show.answer> }) {
  const queries = useQueryClient();
  const tell = useTell();
  const isOwner = useWho().data?.role === 'owner';
  const form = useFields(asked, {
    ...company,
    pricesWithVat: company.pricesWithVat ? 'true' : 'false',
    manyValues: String(company.manyValues),
  });
  const save = useMutation({
    mutationFn: (body: z.output<typeof asked>) => call(api.movingIn.change, { body }),
    onSuccess: ({ job }) => {
      tell(job === null ? 'Kept' : 'Kept; all goods are brought in line with it now');
      void queries.invalidateQueries();
    },
  });
  return (
    <Form form={form} onSend={(body) => save.mutate(body)} error={save.error} columns gap={3} maxWide={460}>
      <CompanyFields control={form.control} />
      <Field
        control={form.control}
        name="manyValues"
        label="Values an option may have before it is advised against"
        helperText="Shoppers lose their way among more."
      />
      {isOwner ? (
        <Box row>
          <Button type="submit" variant="contained" disabled={save.isPending || !form.formState.isDirty}>
            Keep
          </Button>
          {form.formState.isDirty && (
            <Button color="inherit" onClick={() => form.reset()}>
              Put back
            </Button>
          )}
        </Box>
      ) : (
        <Box muted small>
          An owner changes these.
        </Box>
      )}
    </Form>
  );
}
