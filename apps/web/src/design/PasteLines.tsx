/** Things as a list somebody has elsewhere: pasted one a line, read, and shown with what is wrong before they are made. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Box } from './Box';
import { DataTable } from './DataTable';
import { ProblemBox, useTell } from './feedback';
import { plural } from './words';

/** A line as it was read: what is made of it, how it is shown, and why it is not made. */
export interface PastedLine<Made> {
  made: Made;
  /** One for each head. */
  cells: readonly string[];
  fault?: string | undefined;
}

/** Lines that hold something, each parted by tabs or semicolons. */
export const partedLines = (text: string): string[][] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => line.split(/\t|;/).map((part) => part.trim()));

export function PasteLines<Made>({
  label,
  help,
  placeholder,
  heads,
  noun,
  read,
  make,
  onDone,
}: {
  /** Of the field it is pasted into. */
  label: string;
  help: string;
  placeholder: string;
  heads: readonly string[];
  /** One of them. */
  noun: string;
  read: (text: string) => PastedLine<Made>[];
  make: (all: Made[]) => Promise<unknown>;
  onDone: () => void;
}) {
  const [text, setText] = useState('');
  const queries = useQueryClient();
  const tell = useTell();
  const lines = read(text);
  const good = lines.filter(({ fault }) => fault === undefined);
  const add = useMutation({
    mutationFn: () => make(good.map(({ made }) => made)),
    onSuccess: () => {
      tell(`Made ${plural(good.length, noun)}`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  return (
    <>
      <Box as="p" muted small>
        {help}
      </Box>
      <TextField
        fullWidth
        multiline
        minRows={6}
        maxRows={14}
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder={placeholder}
        slotProps={{ htmlInput: { 'aria-label': label } }}
      />
      {lines.length > 0 && (
        <Box above={3}>
          <DataTable
            label="What will be made"
            rows={lines.map((line, i) => ({ ...line, i }))}
            keyOf={({ i }) => i}
            rowLook={({ fault }) => ({ faded: fault !== undefined })}
            columns={[
              ...heads.map((head, at) => ({
                head,
                cell: ({ cells }: PastedLine<Made>) => cells[at] ?? '',
              })),
              {
                head: '',
                id: 'Note',
                look: { tone: 'blocked' as const, small: true },
                cell: ({ fault }: PastedLine<Made>) => fault,
              },
            ]}
          />
        </Box>
      )}
      {add.error && <ProblemBox error={add.error} />}
      <Box above={3} row>
        <Button variant="contained" disabled={good.length === 0 || add.isPending} onClick={() => add.mutate()}>
          Make {plural(good.length, noun)}
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </>
  );
}
