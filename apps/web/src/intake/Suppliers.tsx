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
import { Loaded, ProblemBox } from '../design/feedback';
import { count } from '../design/words';
import { NewSupplier } from './NewSupplier';

export function Suppliers() {
  const suppliers = useQuery(ask(api.intake.suppliers));
  const queries = useQueryClient();
  const [isAdding, setAdding] = useState(false);
  const numbers = useMutation({
    mutationFn: ({ id, usesOurNumbers }: { id: number; usesOurNumbers: boolean }) =>
      call(api.matching.ourNumbers, { params: { id }, body: { usesOurNumbers } }),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf(api.intake.suppliers) }),
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
          <Box as="table" surface="card" className="plain">
            <thead>
              <tr>
                <th>In order of trust</th>
                <Box as="th" num>
                  Records
                </Box>
                <Box as="th" num>
                  Dropped
                </Box>
                <th title="Their numbers for use inside a company are ours: the same number is the same goods">
                  Use our nos
                </th>
              </tr>
            </thead>
            <tbody>
              {data.items.map((row) => (
                <tr key={row.id}>
                  <td>{row.name}</td>
                  <Box as="td" num>
                    {count(row.records)}
                  </Box>
                  <Box as="td" num>
                    {row.dropped > 0 ? (
                      <Link
                        to={`/catalog?all=yes&where=${encodeURIComponent(JSON.stringify([{ attribute: 'droppedBy', op: 'is', value: row.name }]))}`}
                      >
                        {count(row.dropped)}
                      </Link>
                    ) : (
                      ''
                    )}
                  </Box>
                  <td>
                    {row.kind === 'supplier' && (
                      <Checkbox
                        size="small"
                        sx={{ p: 0 }}
                        checked={row.usesOurNumbers}
                        disabled={numbers.isPending}
                        slotProps={{ input: { 'aria-label': `${row.name} uses our numbers` } }}
                        onChange={(_, usesOurNumbers) => numbers.mutate({ id: row.id, usesOurNumbers })}
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Box>
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
