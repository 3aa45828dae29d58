/** The stock of one product: what is there, what is kept back, what channels are shown, and every movement with its reason. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type StockAnswer, type StockChange, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ApiProblem, call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { Line } from '../design/Line';
import { clock, count } from '../design/words';

export function Stock({ productId }: { productId: number }) {
  const stock = useQuery({
    queryKey: ['stock', productId],
    queryFn: () => call(api.stock.show, { params: { id: productId } }),
  });
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
        {ours.length > 1 && <span className="muted small"> {sayEach(ours)}</span>}
      </Line>
      {theirs.length > 0 && (
        <Line label="At suppliers">
          {sayEach(theirs)} <span className="muted small">theirs; shown to no channel they do not serve</span>
        </Line>
      )}
      {stock.reserved > 0 && <Line label="Reserved">{count(stock.reserved)}</Line>}
      <Line label="Kept back">
        <KeptBack key={stock.keptBack} stock={stock} />
      </Line>
      <Line label="Channels see">
        <b>{count(stock.shown)}</b>{' '}
        <span className="muted small">
          {count(stock.onHand)}
          {stock.reserved > 0 && ` − ${count(stock.reserved)} reserved`} − {count(stock.keptBack)} kept back
        </span>
      </Line>
      <Movement key={stock.movements[0]?.id ?? 0} stock={stock} />
      <h3 style={{ margin: '14px 0 2px' }}>Movements</h3>
      {stock.movements.length === 0 && <p className="muted small">Nothing has come or gone yet.</p>}
      {stock.movements.map((movement) => (
        <div
          key={movement.id}
          className="row small"
          style={{ padding: '5px 0', borderBottom: '1px solid var(--line)', alignItems: 'baseline' }}
        >
          <span style={{ width: 56, textAlign: 'right', fontVariantNumeric: 'tabular-nums', fontWeight: 600 }}>
            {signed(movement.delta)}
          </span>
          <span className="grow">
            {movement.reason === 'count' ? 'counted' : movement.reason}
            {several && ` · ${movement.warehouse}`}
            {movement.batchId !== null && (
              <>
                {' '}
                · <Link to={`/intake/${movement.batchId}`}>its batch</Link>
              </>
            )}
          </span>
          <span className="muted">
            {clock(movement.at)}
            {movement.by && ` · ${movement.by}`}
          </span>
        </div>
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
      queries.setQueryData(['stock', stock.productId], after);
      void queries.invalidateQueries();
      tell(said(after));
    },
    onError: (error) => {
      if (error instanceof ApiProblem && error.status === 412)
        void queries.invalidateQueries({ queryKey: ['stock', stock.productId] });
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
      <div className="row">
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
        <span className="muted small">no channel may sell these</span>
      </div>
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
    <form
      style={{ marginTop: 10 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (delta !== undefined) change.mutate({ delta, reason, warehouseId: warehouse });
      }}
    >
      <div className="row" style={{ alignItems: 'flex-start' }}>
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
            {ours.map((our) => (
              <MenuItem key={our.id} value={our.id}>
                {our.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Button type="submit" variant="contained" disabled={!delta || reason.trim() === '' || change.isPending}>
          Book
        </Button>
      </div>
      {delta !== undefined && delta !== 0 && (
        <p className="muted small" style={{ margin: '4px 0' }}>
          {count(stock.onHand)} → {count(stock.onHand + delta)} on hand
        </p>
      )}
      {change.error && <ProblemBox error={change.error} />}
    </form>
  );
}
