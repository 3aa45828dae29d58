/** Which warehouses serve which places: what a supplier has is shown to no channel until somebody says so here. */
import { Box } from '../design/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type WarehouseAnswer, api } from '@velvet-shelf/contract';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Loaded, ProblemBox } from '../design/feedback';

export function Warehouses() {
  const warehouses = useQuery(ask(api.stock.warehouses));
  const places = useQuery(ask(api.channels.places));
  const queries = useQueryClient();
  const serve = useMutation({
    mutationFn: ({ id, ...body }: { id: number; placeId: number; serves: boolean }) =>
      call(api.stock.serve, { params: { id }, body }),
    onSuccess: (data) => {
      queries.setQueryData(keyOf(api.stock.warehouses, {}), data);
      void queries.invalidateQueries();
    },
  });
  const box = (warehouse: WarehouseAnswer, place: { id: number; name: string }) => (
    <FormControlLabel
      key={place.id}
      control={
        <Checkbox
          size="small"
          checked={warehouse.serves.includes(place.id)}
          disabled={serve.isPending}
          onChange={(_, serves) => serve.mutate({ id: warehouse.id, placeId: place.id, serves })}
        />
      }
      label={place.name}
      slotProps={{ typography: { variant: 'body2' } }}
    />
  );
  return (
    <>
      <Box as="h2" around={[4.5, 0, 1.5]}>
        Whose stock goes where
      </Box>
      <Box as="p" small muted>
        What a supplier has stands beside ours. No channel is shown it until you say so.
      </Box>
      <Loaded query={warehouses}>
        {({ items }) => (
          <>
            {items.map((row) => (
              <div key={row.id} role="group" aria-label={`${row.name} serves`}>
                <b>{row.name}</b>{' '}
                <Box as="span" small muted>
                  {row.kind === 'own' ? 'ours' : 'theirs'}, serves
                </Box>
                <div>{places.data?.items.map((place) => box(row, place))}</div>
              </div>
            ))}
          </>
        )}
      </Loaded>
      {serve.error && <ProblemBox error={serve.error} />}
    </>
  );
}
