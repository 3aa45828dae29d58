/** Values of a closed list: with their goods, renamed, put away; new ones pasted in, of a list or of our tree. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { readPaths } from '../design/paths';
import { count, plural } from '../design/words';
import { ValueForm } from './ValueForm';
import { sayOthers } from './words';

export function Values({ attributeId }: { attributeId: number }) {
  const values = useQuery(ask(api.dictionary.values, { params: { id: attributeId } }));
  const [open, setOpen] = useState<number>();
  return (
    <>
      <Loaded query={values}>
        {({ items }) =>
          items.length === 0 ? (
            <Empty title="Nothing is on it yet">Paste the first values below.</Empty>
          ) : (
            <DataTable
              label="Values of the list"
              look={{ surface: 'card' }}
              rows={items}
              keyOf={({ id }) => id}
              rowLook={({ hidden }) => ({ faded: hidden })}
              instead={(row) =>
                row.id === open && (
                  <ValueForm value={row} all={items} isTree={false} onDone={() => setOpen(undefined)} />
                )
              }
              columns={[
                { head: 'Value', cell: (row) => `${row.path.at(-1) ?? ''}${row.hidden ? ' · put away' : ''}` },
                { head: 'Also written', look: { muted: true, small: true }, cell: sayOthers },
                { head: 'Goods', look: { num: true }, cell: ({ goods }) => count(goods) },
                {
                  head: '',
                  id: 'Change',
                  cell: (row) => (
                    <Button
                      color="secondary"
                      aria-label={`Change ${row.path.join(' / ')}`}
                      onClick={() => setOpen(row.id)}
                    >
                      Change
                    </Button>
                  ),
                },
              ]}
            />
          )
        }
      </Loaded>
      <PasteValues attributeId={attributeId} isTree={false} />
    </>
  );
}

/** Pasted, one a line; of a tree with its parents before it, or set in. `attributeId` undefined: our tree, which is made with the first. */
export function PasteValues({ attributeId, isTree }: { attributeId: number | undefined; isTree: boolean }) {
  const [text, setText] = useState('');
  const queries = useQueryClient();
  const tell = useTell();
  const paths = isTree
    ? readPaths(text)
    : text
        .split('\n')
        .map((line) => line.trim())
        .filter(Boolean)
        .map((line) => [line]);
  const add = useMutation({
    mutationFn: () =>
      attributeId === undefined
        ? call(api.dictionary.addCategories, { body: { paths } })
        : call(api.dictionary.addValues, { params: { id: attributeId }, body: { paths } }),
    onSuccess: ({ made, known }) => {
      tell(`${plural(made, 'new one')}${known > 0 ? `; ${plural(known, 'was', 'were')} there already` : ''}`);
      setText('');
      void queries.invalidateQueries();
    },
  });
  return (
    <Box above={4}>
      <TextField
        fullWidth
        multiline
        minRows={3}
        maxRows={12}
        value={text}
        onChange={(event) => setText(event.target.value)}
        label={isTree ? 'New categories' : 'New values'}
        placeholder={isTree ? 'Garden / Pots\nGarden / Tools' : undefined}
        helperText={
          isTree
            ? 'One a line, its parents before it with / or > between; or one below the other, set in by spaces or tabs'
            : 'One a line; paste a column'
        }
      />
      {add.error && <ProblemBox error={add.error} />}
      <Button
        variant="outlined"
        sx={{ mt: 1 }}
        disabled={paths.length === 0 || add.isPending}
        onClick={() => add.mutate()}
      >
        Add {plural(paths.length, 'line')}
      </Button>
    </Box>
  );
}
