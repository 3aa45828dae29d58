/** Pictures for the goods of a cause: many at once by the numbers in their names, or a file for one of them. */
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useRef } from 'react';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { plural } from '../design/words';
import { Arriving } from '../files/Arriving';
import { pictureWays } from '../pictures/ways';

/** Files that came are put at the goods whose numbers their names hold. */
export function PicturesByName({ onPlaced }: { onPlaced: (names: ReadonlyMap<number, string[]>) => void }) {
  const tell = useTell();
  const place = useMutation({
    mutationFn: (names: string[]) => call(api.pictures.place, { body: { names } }),
    onSuccess: ({ items }) => {
      const placed = new Map<number, string[]>();
      for (const { name, product } of items)
        if (product) placed.set(product.id, [...(placed.get(product.id) ?? []), name]);
      onPlaced(placed);
      const left = items.filter(({ product }) => product === null).length;
      if (left > 0) tell(`${plural(left, 'file')} could not be told to belong to any goods; they stand in Pictures`);
    },
  });
  return (
    <Box above={2}>
      <Arriving
        ways={pictureWays}
        hint="A file goes to the goods whose SKU, GTIN or supplier’s number its name holds."
        onCame={(pictures) => place.mutate(pictures.map(({ name }) => name))}
      />
      {place.error && <ProblemBox error={place.error} />}
    </Box>
  );
}

/** A file for one of the goods. */
export function PictureFile({ of, onCame }: { of: string; onCame: (name: string) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const send = useMutation({ mutationFn: pictureWays.send, onSuccess: ({ name }) => onCame(name) });
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        accept={pictureWays.accept}
        aria-label={`Picture file for ${of}`}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) send.mutate(file);
          target.value = '';
        }}
      />
      <Button color="secondary" disabled={send.isPending} onClick={() => input.current?.click()}>
        {send.isPending ? 'Sending…' : 'Choose a file'}
      </Button>
      {send.error && <ProblemBox error={send.error} />}
    </>
  );
}
