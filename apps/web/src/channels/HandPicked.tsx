/** Goods put in or kept out by hand: found by name, added, let go. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { type Handed, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { RemoveButton } from '../design/RemoveButton';

export function HandPicked({ hand, onChange }: { hand: readonly Handed[]; onChange: (hand: Handed[]) => void }) {
  return (
    <>
      <AddByHand
        known={hand}
        onAdd={(picked) => onChange([...hand.filter(({ product }) => product !== picked.product), picked])}
      />
      {hand.length > 0 && (
        <DataTable
          label="Goods put in or kept out by hand"
          look={{ surface: 'card' }}
          rows={hand}
          keyOf={({ product }) => product}
          columns={[
            { head: 'SKU', cell: ({ sku }) => sku ?? '' },
            {
              head: 'Goods',
              cell: ({ product, title, kind }) => (
                <Link to={`/catalog?open=${product}`}>
                  {title ?? `product ${product}`}
                  {kind === 'family' && ' · family'}
                </Link>
              ),
            },
            { head: 'Is', cell: ({ isIn }) => (isIn ? 'put in' : 'kept out') },
            {
              head: '',
              id: 'Let go',
              cell: (row) => (
                <RemoveButton
                  of={row.title ?? `product ${row.product}`}
                  onClick={() => onChange(hand.filter(({ product }) => product !== row.product))}
                />
              ),
            },
          ]}
        />
      )}
    </>
  );
}

function AddByHand({ known, onAdd }: { known: readonly Handed[]; onAdd: (picked: Handed) => void }) {
  const [sought, setSought] = useState('');
  const [goods, setGoods] = useState<Omit<Handed, 'isIn' | 'product'> & { id: number }>();
  const found = useQuery({
    ...ask(api.today.search, { query: { q: sought } }),
    enabled: sought.trim().length > 1,
  });
  const add = (isIn: boolean) => {
    if (!goods) return;
    const { id, ...rest } = goods;
    onAdd({ product: id, isIn, ...rest });
    setGoods(undefined);
    setSought('');
  };
  return (
    <Box row below={2}>
      <Autocomplete
        size="small"
        sx={{ width: 380 }}
        options={found.data?.items ?? []}
        filterOptions={(all) => all.filter(({ id }) => !known.some(({ product }) => product === id))}
        getOptionLabel={({ sku, title, kind }) =>
          `${[sku, title].filter(Boolean).join(' · ')}${kind === 'family' ? ' · family' : ''}`
        }
        getOptionKey={({ id }) => id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        value={goods ?? null}
        onChange={(_, chosen) => setGoods(chosen ?? undefined)}
        inputValue={sought}
        onInputChange={(_, text) => setSought(text)}
        noOptionsText={sought.trim().length > 1 ? 'No goods of this name' : 'Type a SKU or a title'}
        renderInput={(input) => <TextField {...input} label="Goods to put in or keep out" />}
      />
      <Button variant="outlined" disabled={!goods} onClick={() => add(true)}>
        Put in
      </Button>
      <Button variant="outlined" color="inherit" disabled={!goods} onClick={() => add(false)}>
        Keep out
      </Button>
    </Box>
  );
}
