/** The stock of one product: what is there, what is kept back, what channels are shown, and every movement with its reason. */
import { Box } from '../design/Box';
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type StockAnswer, type StockChange, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask, keyOf } from '../api/ask';
import { ApiProblem, call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Line } from '../design/Line';
import { clock, count } from '../design/words';

export function Stock({ productId }: { productId: number }) {
  const stock = useQuery(ask(api.stock.show, { params: { id: productId } }));
  return <Loaded query={stock}>{(data) => <Figures key={productId} stock={data} />}</Loaded>;
}

const ownOf = (stock: StockAnswer) => stock.warehouses.filter((warehouse) => warehouse.kind === 'own');
const sayEach = (list: StockAnswer['warehouses']) => list.map((row) => `${row.name} ${count(row.onHand)}`).join(' · ');
const signed = (delta: number) => `${delta > 0 ? '+' : '−'}${count(Math.abs(delta))}`;

function Figures({ stock }: { stock: StockAnswer }) {
  const several = stock.warehouses.length > 1;
  const [ours, theirs] = [ownOf(stock), stock.warehouses.filter((warehouse) => warehouse.kind === 'supplier')];
  return (
    <>
      <Line label="On hand">
        {count(stock.onHand)}
        {ours.length > 1 && (
          <Box as="span" small muted>
            {' '}
            {sayEach(ours)}
          </Box>
        )}
      </Line>
      {theirs.length > 0 && (
        <Line label="At suppliers">
          {sayEach(theirs)}{' '}
          <Box as="span" small muted>
            theirs; shown to no channel they do not serve
          </Box>
        </Line>
      )}
      {stock.reserved > 0 && <Line label="Reserved">{count(stock.reserved)}</Line>}
      <Line label="Kept back">
        <KeptBack key={stock.keptBack} stock={stock} />
      </Line>
      <Line label="Channels see">
        <b>{count(stock.shown)}</b>{' '}
        <Box as="span" small muted>
          {count(stock.onHand)}
          {stock.reserved > 0 && ` − ${count(stock.reserved)} reserved`} − {count(stock.keptBack)} kept back
        </Box>
      </Line>
      <Movement key={stock.movements[0]?.id ?? 0} stock={stock} />
      <Box as="h3" around={[3.5, 0, 0.5]}>
        Movements
      </Box>
      {stock.movements.length === 0 && (
        <Box as="p" small muted>
          Nothing has come or gone yet.
        </Box>
      )}
      {stock.movements.map((movement) => (
        <Box small row pad={[1.5, 0]} line="bottom" align="baseline" key={movement.id}>
          <Box as="span" wide={56} toRight strong>
            {signed(movement.delta)}
          </Box>
          <Box as="span" grow>
            {movement.reason === 'count' ? 'counted' : movement.reason}
            {several && ` · ${movement.warehouse}`}
            {movement.batchId !== null && (
              <>
                {' '}
                · <Link to={`/intake/${movement.batchId}`}>its batch</Link>
              </>
            )}
          </Box>
          <Box as="span" muted>
            {clock(movement.at)}
            {movement.by && ` · ${movement.by}`}
          </Box>
        </Box>
      ))}
    </>
  );
}

function useChange(stock: StockAnswer, said: (after: StockAnswer) => string) {
  const queries = useQueryClient();
  const tell = useTell();
  return useMutation({
    mutationFn: (change: Omit<StockChange, 'madeAgainst'>) =>
      call(api.stock.change, {
        params: { id: stock.productId },
        body: { ...change, madeAgainst: { onHand: stock.onHand, keptBack: stock.keptBack } },
      }),
    onSuccess: (after) => {
      queries.setQueryData(keyOf(api.stock.show, { params: { id: stock.productId } }), after);
      void queries.invalidateQueries();
      tell(said(after));
    },
    onError: (error) => {
      if (error instanceof ApiProblem && error.status === 412)
        void queries.invalidateQueries({ queryKey: keyOf(api.stock.show, { params: { id: stock.productId } }) });
    },
  });
}

function KeptBack({ stock }: { stock: StockAnswer }) {
  const [draft, setDraft] = useState(String(stock.keptBack));
  const change = useChange(stock, (after) => `Channels are shown ${count(after.shown)}`);
  const isWhole = /^\d{1,6}$/.test(draft.trim());
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate({ keptBack: Number(draft) });
      }}
    >
      <Box row>
        <TextField
          value={draft}
          onChange={(event) => setDraft(event.target.value)}
          error={!isWhole}
          helperText={isWhole ? undefined : 'A whole number of pieces'}
          sx={{ width: 84 }}
          slotProps={{ htmlInput: { 'aria-label': 'Kept back', inputMode: 'numeric' } }}
        />
        {draft.trim() !== String(stock.keptBack) && (
          <Button type="submit" variant="contained" disabled={!isWhole || change.isPending}>
            Keep back
          </Button>
        )}
        <Box as="span" small muted>
          no channel may sell these
        </Box>
      </Box>
      {change.error && <ProblemBox error={change.error} />}
    </form>
  );
}

function Movement({ stock }: { stock: StockAnswer }) {
  const [pieces, setPieces] = useState('');
  const [reason, setReason] = useState('');
  const ours = ownOf(stock);
  const [warehouse, setWarehouse] = useState(ours[0]?.id);
  const change = useChange(stock, (after) => `${count(after.onHand)} on hand`);
  const delta = /^[+−-]?\d{1,6}$/.test(pieces.trim()) ? Number(pieces.trim().replace('−', '-')) : undefined;
  const isWrong = pieces.trim() !== '' && delta === undefined;
  return (
    <Box
      as="form"
      above={2.5}

      onSubmit={(event) => {
        event.preventDefault();
        if (delta !== undefined) change.mutate({ delta, reason, warehouseId: warehouse });
      }}
    >
      <Box row align="start">
        <TextField
          label="Pieces"
          placeholder="+40"
          value={pieces}
          onChange={(event) => setPieces(event.target.value)}
          error={isWrong}
          helperText={isWrong ? '+40 or −3' : undefined}
          sx={{ width: 92 }}
        />
        <Autocomplete
          freeSolo
          options={stock.reasons}
          inputValue={reason}
          onInputChange={(_, text) => setReason(text)}
          sx={{ width: 170 }}
          renderInput={(field) => <TextField {...field} label="Reason" />}
        />
        {ours.length > 1 && (
          <TextField
            select
            label="Warehouse"
            value={warehouse}
            onChange={(event) => setWarehouse(Number(event.target.value))}
          >
            {ours.map((warehouse) => (
              <MenuItem key={warehouse.id} value={warehouse.id}>
                {warehouse.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Button type="submit" variant="contained" disabled={!delta || reason.trim() === '' || change.isPending}>
          Book
        </Button>
      </Box>
      {delta !== undefined && delta !== 0 && (
        <Box as="p" small muted around={[1, 0]}>
          {count(stock.onHand)} → {count(stock.onHand + delta)} on hand
        </Box>
      )}
      {change.error && <ProblemBox error={change.error} />}
    </Box>
  );
}
