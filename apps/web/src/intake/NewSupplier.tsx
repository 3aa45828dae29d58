/** A new supplier by name; trusted last until ranked otherwise. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { keyOf } from '../api/ask';
import { call } from '../api/call';
import { ProblemBox } from '../design/feedback';

export function NewSupplier({ onAdded, onCancel }: { onAdded: (id: number) => void; onCancel: () => void }) {
  const queries = useQueryClient();
  const [name, setName] = useState('');
  const add = useMutation({
    mutationFn: (wanted: string) => call(api.intake.addSupplier, { body: { name: wanted } }),
    onSuccess: ({ id }) => {
      void queries.invalidateQueries({ queryKey: keyOf(api.intake.suppliers) });
      onAdded(id);
    },
  });
  return (
    <>
      <Box
        as="form"
        row

        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() !== '') add.mutate(name);
        }}
      >
        <TextField
          label="Name of the supplier"
          size="small"
          value={name}
          autoFocus
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && onCancel()}
        />
        <Button type="submit" variant="contained" disabled={add.isPending || name.trim() === ''}>
          Add
        </Button>
        <Button color="secondary" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
      {add.error && <ProblemBox error={add.error} />}
    </>
  );
}
