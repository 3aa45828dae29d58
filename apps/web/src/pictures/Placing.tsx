/** Where the files that came belong, by the numbers in their names: looked at before goods are given them. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type PlacedFile, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Thumb } from '../design/Thumb';
import { plural, sayBecoming } from '../design/words';

export function Placing({ names, onDone }: { names: readonly string[]; onDone: () => void }) {
  const placed = useQuery({ ...ask(api.pictures.place, { body: { names: [...names] } }), gcTime: 0 });
  return <Loaded query={placed}>{({ items }) => <Places items={items} onDone={onDone} />}</Loaded>;
}

function Places({ items, onDone }: { items: readonly PlacedFile[]; onDone: () => void }) {
  const queries = useQueryClient();
  const tell = useTell();
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const given = items.flatMap(({ name, product, held }) =>
    product && !held && !out.has(name) ? [{ name, product: product.id }] : [],
  );
  const goods = new Set(given.map(({ product }) => product)).size;
  const give = useMutation({
    mutationFn: () => call(api.pictures.give, { body: { given } }),
    onSuccess: ({ goods: changed, ...effect }) => {
      tell(`${plural(changed, 'product')} got pictures; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  return (
    <Box as="section" surface="card" rounded pad={[3, 4]} above={3} aria-label="Where they belong">
      <Box row wrap below={2}>
        <h2>Where they belong</h2>
        <Box as="span" muted>
          by SKU, GTIN or a supplier’s number in their names
        </Box>
        <Box grow />
        <Button variant="contained" disabled={given.length === 0 || give.isPending} onClick={() => give.mutate()}>
          Give {plural(given.length, 'picture')} to {plural(goods, 'product')}
        </Button>
        <Button color="inherit" onClick={onDone}>
          Leave them
        </Button>
      </Box>
      {give.error && <ProblemBox error={give.error} title="Nothing was given" />}
      <DataTable
        label="Where pictures belong"
        rows={items}
        keyOf={({ name }) => name}
        columns={[
          {
            head: '',
            id: 'Given',
            cell: ({ name, product, held }) => (
              <Checkbox
                size="small"
                disabled={!product || held}
                checked={product !== null && !held && !out.has(name)}
                onChange={({ target }) =>
                  setOut(new Set(target.checked ? [...out].filter((other) => other !== name) : [...out, name]))
                }
                slotProps={{ input: { 'aria-label': `Give ${name}` } }}
              />
            ),
            look: { wide: 60 },
          },
          {
            head: 'Picture',
            cell: ({ name }) => (
              <Box row>
                <Thumb name={name} size={36} />
                {name}
              </Box>
            ),
          },
          {
            head: 'Goes to',
            cell: ({ product, why, held }) => (
              <>
                {product && (
                  <Link className="plain" to={`/catalog/product/${product.id}`}>
                    {product.title ?? product.sku}
                  </Link>
                )}
                <Box small muted>
                  {product?.sku} {held ? '· has it already' : why}
                </Box>
              </>
            ),
          },
        ]}
      />
    </Box>
  );
}
