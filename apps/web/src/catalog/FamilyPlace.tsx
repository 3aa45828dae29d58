/** Where a product belongs: put into another family, taken out of its own, or its family broken up. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ProductAnswer, api } from '@velvet-shelf/contract';
import { axesOf, optionOf } from '@velvet-shelf/core/catalog';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { useSettled } from '../design/settled';
import { plural, sayBecoming } from '../design/words';

type Becoming = Parameters<typeof sayBecoming>[0];

export function FamilyPlace({
  product,
  onMoved,
}: {
  product: ProductAnswer;
  /** Opens what it is part of now, or itself. */
  onMoved: (id: number) => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const [form, setForm] = useState<'move' | 'break'>();
  const done = (words: string, effect: Becoming, id: number) => {
    tell(`${words}; ${sayBecoming(effect, true)}`);
    setForm(undefined);
    void queries.invalidateQueries();
    onMoved(id);
  };
  const name = product.sku ?? product.title ?? 'it';
  const takeOut = useMutation({
    mutationFn: () => call(api.families.takeOut, { body: { products: [product.id] } }),
    onSuccess: (effect) => done(`${name} stands alone`, effect, product.id),
  });
  const breakUp = useMutation({
    mutationFn: () => call(api.families.breakUp, { params: { id: product.id } }),
    onSuccess: (effect) =>
      done(`${plural(product.siblings.length, 'variant')} stand alone`, effect, product.siblings[0]?.id ?? product.id),
  });
  const isBusy = takeOut.isPending || breakUp.isPending;
  if (form === 'move') return <MoveForm product={product} onDone={done} onCancel={() => setForm(undefined)} />;
  if (form === 'break')
    return (
      <Box row wrap role="status">
        <Box as="span" small>
          {plural(product.siblings.length, 'variant')} will stand alone, and so will what its sources bring of it later.
          The history can make it whole again.
        </Box>
        <Button variant="outlined" color="error" disabled={isBusy} onClick={() => breakUp.mutate()}>
          Break it up
        </Button>
        <Button color="inherit" onClick={() => setForm(undefined)}>
          Keep it
        </Button>
        {breakUp.error && <ProblemBox error={breakUp.error} />}
      </Box>
    );
  return (
    <>
      {product.kind === 'family' && (
        <Button color="inherit" onClick={() => setForm('break')}>
          Break the family up
        </Button>
      )}
      {(product.kind === 'variant' || product.kind === 'single') && (
        <Button color="inherit" onClick={() => setForm('move')}>
          {product.kind === 'variant' ? 'Put into another family…' : 'Put into a family…'}
        </Button>
      )}
      {product.kind === 'variant' && (
        <Button color="inherit" disabled={isBusy} onClick={() => takeOut.mutate()}>
          Take out of its family
        </Button>
      )}
      {takeOut.error && <ProblemBox error={takeOut.error} />}
    </>
  );
}

interface FamilyFound {
  id: number;
  title: string | null;
}

/** The family is looked for, and what tells its variants apart is said of this one. */
function MoveForm({
  product,
  onDone,
  onCancel,
}: {
  product: ProductAnswer;
  onDone: (words: string, effect: Becoming, family: number) => void;
  onCancel: () => void;
}) {
  const [family, setFamily] = useState<FamilyFound | null>(null);
  const [text, setText] = useState('');
  const [values, setValues] = useState<Record<string, string>>({});
  const sought = useSettled(text);
  const found = useQuery({
    ...ask(api.today.search, { query: { q: sought, only: 'families', limit: 20 } }),
    enabled: sought.trim().length > 1,
    placeholderData: keepPreviousData,
  });
  const chosen = useQuery({
    ...ask(api.catalog.product, { params: { id: family?.id ?? 0 } }),
    enabled: family !== null,
  });
  const siblings = (chosen.data?.siblings ?? []).map(({ id, options }) => ({
    id,
    options: Object.fromEntries(options),
  }));
  const axes = axesOf(siblings, []).map(({ key }) => key);
  const own = { id: product.id, options: Object.fromEntries(product.options) };
  const valueOn = (axis: string) => values[axis] ?? optionOf(own, axis) ?? '';
  const twin = siblings.find((other) => axes.every((axis) => optionOf(other, axis) === valueOn(axis).trim()));
  const isWhole = axes.every((axis) => valueOn(axis).trim() !== '');
  const move = useMutation({
    mutationFn: () =>
      call(api.families.gather, {
        body: {
          families: [
            {
              into: family?.id ?? 0,
              axes,
              members: [{ id: product.id, values: axes.map((axis) => valueOn(axis).trim() || null) }],
            },
          ],
        },
      }),
    onSuccess: (effect) => onDone(`Put into ${family?.title ?? 'the family'}`, effect, family?.id ?? product.id),
  });
  return (
    <Box
      as="form"
      columns
      gap={2}
      surface="card"
      rounded
      pad={[2.5, 3]}
      aria-label="Put into a family"
      onSubmit={(event) => {
        event.preventDefault();
        move.mutate();
      }}
      onKeyDown={(event) => event.key === 'Escape' && onCancel()}
    >
      <Autocomplete
        size="small"
        options={(found.data?.items ?? []).filter(({ id }) => id !== product.family?.id)}
        filterOptions={(all) => all}
        getOptionKey={({ id }) => id}
        getOptionLabel={({ title }) => title ?? 'no title'}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        value={family}
        onChange={(_, to) => {
          setFamily(to);
          setValues({});
        }}
        onInputChange={(_, to) => setText(to)}
        noOptionsText={sought.trim().length > 1 ? 'No family of this name' : 'Type some of its title'}
        renderInput={(params) => <TextField {...params} label="Family" autoFocus />}
      />
      {family && (
        <Box row wrap align="start">
          {axes.map((axis) => (
            <TextField
              key={axis}
              size="small"
              label={axis}
              value={valueOn(axis)}
              onChange={(event) => setValues({ ...values, [axis]: event.target.value })}
            />
          ))}
        </Box>
      )}
      {chosen.data && (
        <Box small muted>
          {plural(siblings.length, 'variant')}{' '}
          {axes.length > 0 ? `by ${axes.join(' and ')}` : 'that nothing tells apart'}
        </Box>
      )}
      {chosen.data && isWhole && twin && (
        <Box small tone="blocked">
          The family has {axes.map(valueOn).join(', ')} already: buyers could not tell the two apart.
        </Box>
      )}
      {move.error && <ProblemBox error={move.error} title="Nothing was moved" />}
      <Box row>
        <Button type="submit" variant="contained" disabled={!chosen.data || move.isPending}>
          Put it there
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
