/** Suppliers in the order they are trusted, with what they list and what they list no longer. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { Loaded, ProblemBox } from '../design/feedback';
import { count } from '../design/words';

export function Suppliers() {
  const suppliers = useQuery({ queryKey: ['suppliers'], queryFn: () => call(api.intake.suppliers) });
  const queries = useQueryClient();
  const [name, setName] = useState<string>();
  const add = useMutation({
    mutationFn: (wanted: string) => call(api.intake.addSupplier, { body: { name: wanted } }),
    onSuccess: () => {
      setName(undefined);
      void queries.invalidateQueries({ queryKey: ['suppliers'] });
    },
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
                <th>Trusted in this order</th>
                <th className="num">Records</th>
                <th className="num">Dropped</th>
              </tr>
            </thead>
            <tbody>
              {data.items.map((one) => (
                <tr key={one.id}>
                  <td>{one.name}</td>
                  <td className="num">{count(one.records)}</td>
                  <td className="num">
                    {one.dropped > 0 ? (
                      <Link
                        to={`/catalog?all=yes&where=${encodeURIComponent(JSON.stringify([{ attribute: 'droppedBy', op: 'is', value: one.name }]))}`}
                      >
                        {count(one.dropped)}
                      </Link>
                    ) : (
                      ''
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Loaded>
      {add.error && <ProblemBox error={add.error} />}
      {name === undefined ? (
        <Button color="secondary" sx={{ p: 0, mt: 0.5 }} onClick={() => setName('')}>
          + Supplier
        </Button>
      ) : (
        <form
          className="row"
          style={{ marginTop: 6, gap: 6 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim() !== '') add.mutate(name);
          }}
        >
          <TextField label="Name" value={name} autoFocus onChange={(event) => setName(event.target.value)} />
          <Button type="submit" variant="contained" disabled={add.isPending}>
            Add
          </Button>
        </form>
      )}
    </>
  );
}
