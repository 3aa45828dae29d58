/** Warehouses as they are kept: made, renamed, put away; and which places they serve. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type WarehouseAnswer, api } from '@velvet-shelf/contract';
import { foldText } from '@velvet-shelf/core/values';
import { useState } from 'react';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Loaded, ProblemBox } from '../design/feedback';
import { Field, Form, useFields } from '../design/Form';
import { PasteLines, type PastedLine, partedLines } from '../design/PasteLines';
import { PutAway } from '../design/PutAway';
import { count } from '../design/words';
import { Warehouses } from './Warehouses';

type Change = z.input<typeof api.stock.changeWarehouse.body>;
const named = api.stock.addWarehouse.body;

export function WarehouseTable() {
  const warehouses = useQuery(ask(api.stock.warehouses));
  const queries = useQueryClient();
  const [open, setOpen] = useState<number | 'new' | 'many'>();
  const done = {
    onSuccess: () => setOpen(undefined),
    onSettled: () => queries.invalidateQueries(),
  };
  const change = useMutation({
    mutationFn: ({ id, ...body }: Change & { id: number }) => call(api.stock.changeWarehouse, { params: { id }, body }),
    ...done,
  });
  const add = useMutation({
    mutationFn: (body: z.output<typeof named>) => call(api.stock.addWarehouse, { body }),
    ...done,
  });
  return (
    <Box maxWide={760}>
      <Loaded query={warehouses}>
        {({ items }) => (
          <DataTable
            label="Warehouses"
            look={{ surface: 'card' }}
            rows={items}
            keyOf={({ id }) => id}
            rowLook={({ putAway }) => ({ faded: putAway })}
            columns={[
              {
                head: 'Warehouse',
                sortBy: ({ name }) => name,
                cell: (row) => `${row.name}${row.putAway ? ' · put away' : ''}`,
              },
              { head: 'Whose', cell: ({ kind }) => (kind === 'own' ? 'ours' : 'a supplier’s') },
              {
                head: 'Pieces',
                sortBy: ({ onHand }) => onHand,
                look: { num: true },
                cell: ({ onHand }) => count(onHand),
              },
              {
                head: '',
                id: 'Change',
                cell: (row) => (
                  <>
                    <Button color="secondary" aria-label={`Rename ${row.name}`} onClick={() => setOpen(row.id)}>
                      Rename
                    </Button>
                    <PutAway
                      of={row}
                      disabled={change.isPending}
                      onChange={(body) => change.mutate({ id: row.id, ...body })}
                    />
                  </>
                ),
              },
            ]}
            instead={(row) =>
              row.id === open && (
                <NameForm
                  warehouse={row}
                  error={change.error}
                  onSend={({ name }) => change.mutate({ id: row.id, to: { name }, was: { name: row.name } })}
                  onCancel={() => setOpen(undefined)}
                />
              )
            }
          />
        )}
      </Loaded>
      {change.error && open === undefined && <ProblemBox error={change.error} />}
      {open === 'new' ? (
        <NameForm error={add.error} onSend={(body) => add.mutate(body)} onCancel={() => setOpen(undefined)} />
      ) : open === 'many' ? (
        <PasteLines
          label="Warehouses, one a line"
          help="One a line."
          placeholder={'North hall\nReturns'}
          heads={['Warehouse']}
          noun="warehouse"
          read={(text) => readNames(text, warehouses.data?.items ?? [])}
          make={(names) => call(api.stock.addWarehouses, { body: { names } })}
          onDone={() => setOpen(undefined)}
        />
      ) : (
        <Box row above={2}>
          <Button color="secondary" onClick={() => setOpen('new')}>
            + Warehouse
          </Button>
          <Button color="secondary" onClick={() => setOpen('many')}>
            Paste several
          </Button>
        </Box>
      )}
      <Warehouses />
    </Box>
  );
}

function readNames(text: string, known: readonly WarehouseAnswer[]): PastedLine<string>[] {
  const seen = new Map(known.map(({ name }) => [foldText(name), 'is there already']));
  return partedLines(text).map(([name = '']) => {
    const fault = seen.get(foldText(name));
    seen.set(foldText(name), 'stands there twice');
    return { made: name, cells: [name], fault };
  });
}

function NameForm({
  warehouse,
  error,
  onSend,
  onCancel,
}: {
  warehouse?: WarehouseAnswer;
  error: unknown;
  onSend: (body: z.output<typeof named>) => void;
  onCancel: () => void;
}) {
  const form = useFields(named, { name: warehouse?.name ?? '' });
  return (
    <Form form={form} onSend={onSend} onCancel={onCancel} error={error}>
      <Box row align="start" pad={[2, 0]}>
        <Field control={form.control} name="name" label="Name of the warehouse" autoFocus />
        <Button type="submit" variant="contained">
          Keep
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Form>
  );
}
