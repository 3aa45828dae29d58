/** One row of a file, its cells open to correction; it is judged again when saved. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useMutation } from '@tanstack/react-query';
import { type BatchAnswer, type BatchRowAnswer, api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { call } from '../api/call';
import { Field, Form, useFields } from '../design/Form';
import { ProblemBox, useTell } from '../design/feedback';
import { batchWork } from './work';

/** By the place of the column: names of columns may hold anything. */
const cellFields = z.object({ cells: z.array(z.string()) });

export function FixRow({
  batch,
  row,
  onClose,
  onDone,
}: {
  batch: BatchAnswer;
  row: BatchRowAnswer;
  onClose: () => void;
  onDone: (batch: BatchAnswer) => void;
}) {
  const form = useFields(cellFields, { cells: batch.columns.map((_, i) => row.cells[i] ?? '') });
  const tell = useTell();
  const save = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: ({ cells }: z.output<typeof cellFields>) =>
      call(api.intake.fix, {
        params: { id: batch.id, row: row.row },
        body: { cells: Object.fromEntries(batch.columns.map((column, i) => [column, cells[i] ?? ''])) },
      }),
    onSuccess: ({ row: judged, batch: data }) => {
      tell(
        judged.outcome === 'refused'
          ? `Still refused: ${judged.reasons[0]}`
          : `Row ${row.place ?? row.row}: would be ${judged.outcome}`,
        judged.outcome === 'refused' ? 'error' : 'success',
      );
      if (judged.outcome !== 'refused') onDone(data);
    },
  });
  const wrong = new Map(row.notes.filter((note) => note.lost).map((note) => [note.column, note.note]));
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>Correct row {row.place ?? row.row}</DialogTitle>
      <Form form={form} onSend={(values) => save.mutate(values)}>
        <DialogContent>
          {row.reasons.map((reason) => (
            <Box as="p" tone="blocked" around={[0, 0, 2]} key={reason}>
              {reason}
            </Box>
          ))}
          {save.error && <ProblemBox error={save.error} />}
          <Box columns="1fr 1fr 1fr" gap={3} padTop={1.5}>
            {batch.columns.map((column, i) => (
              <Field
                key={column}
                control={form.control}
                name={`cells.${i}`}
                label={column}
                fault={wrong.get(column)}
                multiline={(row.cells[i] ?? '').length > 60}
                maxRows={4}
              />
            ))}
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose} color="secondary">
            Leave it
          </Button>
          <Button type="submit" variant="contained" disabled={save.isPending}>
            Save and judge again
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}
