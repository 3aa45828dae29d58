/** Rates of exchange as they are kept: said for two of the company's currencies, changed, taken away. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type RateAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Empty, Loaded, ProblemBox } from '../design/feedback';
import { count, day } from '../design/words';
import { RateForm } from './RateForm';

const keyOf = ({ from, to }: Pick<RateAnswer, 'from' | 'to'>) => `${from} ${to}`;

export function RateTable({ currencies }: { currencies: readonly string[] }) {
  const rates = useQuery(ask(api.company.rates));
  const queries = useQueryClient();
  const [open, setOpen] = useState<string>();
  const [pair, setPair] = useState({ from: '', to: '' });
  const remove = useMutation({
    mutationFn: ({ from, to, rate }: RateAnswer) =>
      call(api.company.setRate, { body: { from, to, is: null, was: rate } }),
    onSettled: () => queries.invalidateQueries(),
  });
  const choice = (label: string, name: 'from' | 'to') => (
    <TextField
      select
      label={label}
      value={pair[name]}
      sx={{ width: 130 }}
      onChange={({ target }) => setPair({ ...pair, [name]: target.value })}
    >
      {currencies.map((currency) => (
        <MenuItem key={currency} value={currency}>
          {currency}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Box maxWide={860}>
      <Box as="p" muted around={[0, 0, 3]}>
        Fills that convert a price go by these. A price a product has of its own in a currency can go before, as the
        first rule of the fill.
      </Box>
      <Loaded query={rates}>
        {({ items }) => {
          const known = items.some((row) => keyOf(row) === keyOf(pair));
          return (
            <>
              {items.length === 0 ? (
                <Empty title="No rates yet">Choose two currencies below and say what one is in the other.</Empty>
              ) : (
                <DataTable
                  label="Rates"
                  look={{ surface: 'card' }}
                  rows={items}
                  keyOf={keyOf}
                  columns={[
                    { head: 'From', sortBy: ({ from }) => from, cell: ({ from }) => `one ${from}` },
                    { head: 'Is', look: { num: true }, cell: ({ rate, to }) => `${rate} ${to}` },
                    { head: 'Who says so', cell: ({ source }) => source },
                    { head: 'Day', sortBy: (row) => row.day, cell: (row) => day(row.day) },
                    { head: 'Places', look: { num: true }, cell: ({ places }) => count(places) },
                    {
                      head: '',
                      id: 'Change',
                      cell: (row) => (
                        <>
                          <Button
                            color="secondary"
                            aria-label={`Change the rate from ${row.from} to ${row.to}`}
                            onClick={() => setOpen(keyOf(row))}
                          >
                            Change
                          </Button>
                          <Button
                            color="secondary"
                            aria-label={`Take the rate from ${row.from} to ${row.to} away`}
                            disabled={remove.isPending}
                            onClick={() => remove.mutate(row)}
                          >
                            Take away
                          </Button>
                        </>
                      ),
                    },
                  ]}
                  instead={(row) =>
                    keyOf(row) === open && (
                      <RateForm from={row.from} to={row.to} is={row} onDone={() => setOpen(undefined)} />
                    )
                  }
                />
              )}
              {remove.error && <ProblemBox error={remove.error} />}
              <Box row above={4}>
                {choice('From', 'from')}
                {choice('To', 'to')}
              </Box>
              {pair.from !== '' && pair.to !== '' && pair.from !== pair.to && (
                <Box above={3}>
                  {known ? (
                    <Box muted>There is a rate for these two already: change it above.</Box>
                  ) : (
                    <RateForm key={keyOf(pair)} {...pair} onDone={() => setPair({ from: '', to: '' })} />
                  )}
                </Box>
              )}
            </>
          );
        }}
      </Loaded>
    </Box>
  );
}
