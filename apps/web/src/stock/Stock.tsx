/** The stock of one product: what is there, what is kept back, what channels are shown, and every movement with its reason. */
import { Box } from '../design/Box';
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type StockAnswer, type StockChange, api } from '@velvet-shelf/contract';
import { useController } from 'react-hook-form';
import { z } from 'zod';
import { Link } from 'react-router';
import { ask, keyOf } from '../api/ask';
import { ApiProblem, call } from '../api/call';
import { Field, Form, useFields } from '../design/Form';
import { Loaded, useTell } from '../design/feedback';
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

const keptFields = z.object({
  keptBack: z
    .string()
    .trim()
    .regex(/^\d{1,6}$/, 'A whole number of pieces'),
});

function KeptBack({ stock }: { stock: StockAnswer }) {
  const form = useFields(keptFields, { keptBack: String(stock.keptBack) });
  const change = useChange(stock, (after) => `Channels are shown ${count(after.shown)}`);
  return (
    <Form form={form} onSend={({ keptBack }) => change.mutate({ keptBack: Number(keptBack) })} error={change.error}>
      <Box row>
        <Field
          control={form.control}
          name="keptBack"
          says="Kept back"
          sx={{ width: 84 }}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        {form.watch('keptBack').trim() !== String(stock.keptBack) && (
          <Button type="submit" variant="contained" disabled={change.isPending}>
            Keep back
          </Button>
        )}
        <Box as="span" small muted>
          no channel may sell these
        </Box>
      </Box>
    </Form>
  );
}

const pieces = /^[+−-]?\d{1,6}$/;
const movementFields = z.object({
  pieces: z
    .string()
    .trim()
    .regex(pieces, '+40 or −3')
    .transform((text) => Number(text.replace('−', '-'))),
  reason: z.string().trim().min(1, 'Why it came or went'),
  warehouseId: z.number().optional(),
});

function Movement({ stock }: { stock: StockAnswer }) {
  const ours = ownOf(stock);
  const form = useFields(movementFields, { pieces: '', reason: '', warehouseId: ours[0]?.id });
  const change = useChange(stock, (after) => `${count(after.onHand)} on hand`);
  const [typed, reason] = form.watch(['pieces', 'reason']).map((text) => text.trim());
  const delta = typed && pieces.test(typed) ? Number(typed.replace('−', '-')) : 0;
  return (
    <Form
      form={form}
      onSend={({ pieces: delta, ...rest }) => change.mutate({ delta, ...rest })}
      error={change.error}
      above={2.5}
    >
      <Box row align="start">
        <Field control={form.control} name="pieces" label="Pieces" placeholder="+40" sx={{ width: 92 }} />
        <Reason control={form.control} reasons={stock.reasons} />
        {ours.length > 1 && (
          <Field
            control={form.control}
            name="warehouseId"
            label="Warehouse"
            options={ours.map(({ id, name }) => [id, name])}
          />
        )}
        <Button type="submit" variant="contained" disabled={delta === 0 || !reason || change.isPending}>
          Book
        </Button>
      </Box>
      {delta !== 0 && (
        <Box as="p" small muted around={[1, 0]}>
          {count(stock.onHand)} → {count(stock.onHand + delta)} on hand
        </Box>
      )}
    </Form>
  );
}

type MovementControl = ReturnType<typeof useFields<typeof movementFields>>['control'];

/** One of the reasons given before, or another. */
function Reason({ control, reasons }: { control: MovementControl; reasons: string[] }) {
  const { field, fieldState } = useController({ control, name: 'reason' });
  return (
    <Autocomplete
      freeSolo
      options={reasons}
      inputValue={field.value}
      onInputChange={(_, text) => field.onChange(text)}
      sx={{ width: 170 }}
      renderInput={(params) => (
        <TextField
          {...params}
          label="Reason"
          inputRef={field.ref}
          error={fieldState.error !== undefined}
          helperText={fieldState.error?.message}
        />
      )}
    />
  );
}
