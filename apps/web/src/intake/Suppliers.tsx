/** Suppliers in the order they are trusted, with what they list and what they list no longer. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { Loaded, ProblemBox } from '../design/feedback';
import { count } from '../design/words';
import { NewSupplier } from './NewSupplier';

export function Suppliers() {
  const suppliers = useQuery({ queryKey: ['suppliers'], queryFn: () => call(api.intake.suppliers) });
  const queries = useQueryClient();
  const [isAdding, setAdding] = useState(false);
  const numbers = useMutation({
    mutationFn: ({ id, usesOurNumbers }: { id: number; usesOurNumbers: boolean }) =>
      call(api.matching.ourNumbers, { params: { id }, body: { usesOurNumbers } }),
    onSettled: () => queries.invalidateQueries({ queryKey: ['suppliers'] }),
  });
  return (
    <>
      <div className="row" style={{ marginBottom: 6 }}>
        <h2 className="grow">Suppliers</h2>
        <Button component={Link} to="/matching?tab=trust" color="secondary" sx={{ p: 0 }}>
          Change the order
        </Button>
      </div>
      <Loaded query={suppliers}>
        {(data) => (
          <table className="plain" style={{ background: 'var(--card)' }}>
            <thead>
              <tr>
                <th>In order of trust</th>
                <th className="num">Records</th>
                <th className="num">Dropped</th>
                <th title="Their numbers for use inside a company are ours: the same number is the same goods">
                  Use our nos
                </th>
              </tr>
            </thead>
            <tbody>
              {data.items.map((row) => (
                <tr key={row.id}>
                  <td>{row.name}</td>
                  <td className="num">{count(row.records)}</td>
                  <td className="num">
                    {row.dropped > 0 ? (
                      <Link
                        to={`/catalog?all=yes&where=${encodeURIComponent(JSON.stringify([{ attribute: 'droppedBy', op: 'is', value: row.name }]))}`}
                      >
                        {count(row.dropped)}
                      </Link>
                    ) : (
                      ''
                    )}
                  </td>
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
          </table>
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
