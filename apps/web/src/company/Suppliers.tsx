/** Suppliers in the order they are trusted, with what they list and what they list no longer. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { DataTable } from '../design/DataTable';
import { Loaded, ProblemBox } from '../design/feedback';
import { count } from '../design/words';
import { NewSupplier } from './NewSupplier';

export function Suppliers() {
  const suppliers = useQuery(ask(api.company.suppliers));
  const queries = useQueryClient();
  const [isAdding, setAdding] = useState(false);
  const numbers = useMutation({
    mutationFn: ({ id, usesOurNumbers }: { id: number; usesOurNumbers: boolean }) =>
      call(api.matching.ourNumbers, { params: { id }, body: { usesOurNumbers } }),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf(api.company.suppliers) }),
  });
  return (
    <>
      <Box row below={1.5}>
        <Box as="h2" grow>
          Suppliers
        </Box>
        <Button component={Link} to="/matching?tab=trust" color="secondary" sx={{ p: 0 }}>
          Change the order
        </Button>
      </Box>
      <Loaded query={suppliers}>
        {(data) => (
          <DataTable
            label="Suppliers"
            look={{ surface: 'card' }}
            rows={data.items}
            keyOf={({ id }) => id}
            columns={[
              { head: 'In order of trust', cell: ({ name }) => name },
              {
                head: 'Records',
                sortBy: ({ records }) => records,
                cell: ({ records }) => count(records),
                look: { num: true },
              },
              {
                head: 'Dropped',
                sortBy: ({ dropped }) => dropped,
                look: { num: true },
                cell: ({ name, dropped }) =>
                  dropped > 0 && (
                    <Link
                      to={`/catalog?all=yes&where=${encodeURIComponent(JSON.stringify([{ attribute: 'droppedBy', op: 'is', value: name }]))}`}
                    >
                      {count(dropped)}
                    </Link>
                  ),
              },
              {
                head: 'Use our nos',
                headLook: {
                  title: 'Their numbers for use inside a company are ours: the same number is the same goods',
                },
                cell: (row) =>
                  row.kind === 'supplier' && (
                    <Checkbox
                      size="small"
                      sx={{ p: 0 }}
                      checked={row.usesOurNumbers}
                      disabled={numbers.isPending}
                      slotProps={{ input: { 'aria-label': `${row.name} uses our numbers` } }}
                      onChange={(_, usesOurNumbers) => numbers.mutate({ id: row.id, usesOurNumbers })}
                    />
                  ),
              },
            ]}
          />
        )}
      </Loaded>
      {numbers.error && <ProblemBox error={numbers.error} />}
      {isAdding ? (
        <NewSupplier onAdded={() => setAdding(false)} onCancel={() => setAdding(false)} />
      ) : (
        <Button color="secondary" sx={{ p: 0, mt: 0.5 }} onClick={() => setAdding(true)}>
          + Supplier
        </Button>
      )}
    </>
  );
}
