/** Attributes as a list somebody has elsewhere: pasted, read, and shown before they are made. */
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type DictionaryRow, api } from '@velvet-shelf/contract';
import { attributeTypes, foldText } from '@velvet-shelf/core/values';
import { useState } from 'react';
import TextField from '@mui/material/TextField';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { ProblemBox, useTell } from '../design/feedback';
import { plural } from '../design/words';
import { typeWords } from './words';

interface Line {
  label: string;
  type: (typeof attributeTypes)[number];
  values: string[];
  /** Why it is not made. */
  fault?: string | undefined;
}

/** “Glaze” · “Care <tab> text” · “Frost-proof <tab> yes or no” · “Finish <tab> matt | glossy”. */
function readLines(text: string, known: readonly DictionaryRow[]): Line[] {
  const seen = new Map(known.map(({ label }) => [foldText(label), 'is there already']));
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line): Line => {
      const [label = '', said = ''] = line.split(/\t|;/).map((part) => part.trim());
      const values = said
        .split('|')
        .map((value) => value.trim())
        .filter(Boolean);
      const named = attributeTypes.find((type) =>
        [type, typeWords[type]].some((word) => foldText(word) === foldText(said)),
      );
      const fault = seen.get(foldText(label));
      seen.set(foldText(label), 'stands there twice');
      if (named)
        return {
          label,
          type: named,
          values: [],
          fault: named === 'measure' ? 'say of what: make it by itself' : fault,
        };
      return values.length > 1
        ? { label, type: 'choice', values, fault }
        : { label, type: 'text', values: [], fault: said === '' ? fault : `“${said}” is no kind of attribute` };
    });
}

export function PasteAttributes({ known, onDone }: { known: readonly DictionaryRow[]; onDone: () => void }) {
  const [text, setText] = useState('');
  const queries = useQueryClient();
  const tell = useTell();
  const lines = readLines(text, known);
  const good = lines.filter(({ fault }) => fault === undefined);
  const add = useMutation({
    mutationFn: () =>
      call(api.dictionary.add, {
        body: {
          attributes: good.map(({ label, type, values }) => ({
            ...{ label, type, values, many: false, perLanguage: false, level: 'variant' as const },
            ...{ dimension: null, role: null, aliases: [], group: 'Own' },
          })),
        },
      }),
    onSuccess: ({ ids }) => {
      tell(`Made ${plural(ids.length, 'attribute')}`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  return (
    <>
      <Box as="h2" textSize={22}>
        Paste several
      </Box>
      <Box as="p" muted small>
        One a line: its name, then what it is after a tab or a semicolon. Values with | between make a closed list.
      </Box>
      <TextField
        fullWidth
        multiline
        minRows={6}
        maxRows={14}
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder={'Glaze\nFrost-proof; yes or no\nFinish; matt | glossy | silk'}
        slotProps={{ htmlInput: { 'aria-label': 'Attributes, one a line' } }}
      />
      {lines.length > 0 && (
        <Box above={3}>
          <DataTable
            label="What will be made"
            rows={lines.map((line, i) => ({ ...line, i }))}
            keyOf={({ i }) => i}
            rowLook={({ fault }) => ({ faded: fault !== undefined })}
            columns={[
              { head: 'Attribute', cell: ({ label }) => label },
              {
                head: 'Is',
                cell: ({ type, values }) => `${typeWords[type]}${values.length > 0 ? `: ${values.join(', ')}` : ''}`,
              },
              { head: '', id: 'Note', look: { tone: 'blocked', small: true }, cell: ({ fault }) => fault },
            ]}
          />
        </Box>
      )}
      {add.error && <ProblemBox error={add.error} />}
      <Box above={3}>
        <Button variant="contained" disabled={good.length === 0 || add.isPending} onClick={() => add.mutate()}>
          Make {plural(good.length, 'attribute')}
        </Button>
      </Box>
    </>
  );
}
