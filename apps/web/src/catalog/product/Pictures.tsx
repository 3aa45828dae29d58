/** Pictures in their order, the first of them the one that stands for the product; moved and taken out as values are written. */
import Button from '@mui/material/Button';
import type { ProductAnswer } from '@velvet-shelf/contract';
import { Box } from '../../design/Box';
import { Thumb } from '../../design/Thumb';
import type { Draft } from './draft';

/** Between names, where several are one text. */
const mark = ', ';
/** … and as a list of them may be typed. */
const parting = /\s*[|,]\s*|\s*;\s+/;

export function Pictures({ product, draft }: { product: ProductAnswer; draft: Draft }) {
  const held = product.values.find(({ role }) => role === 'pictures');
  if (!held)
    return (
      <Box as="p" muted>
        Its variants have their own: choose one on the rack.
      </Box>
    );
  const text = draft.written([product.id], held.attribute) ?? held.text ?? '';
  const names = text.split(parting).flatMap((name) => name.trim() || []);
  const write = (to: readonly string[]) => draft.write([product.id], held.attribute, to.join(mark), held.text ?? '');
  const moved = (from: number, to: number) => {
    const next = names.filter((_, i) => i !== from);
    next.splice(to, 0, names[from] ?? '');
    return next;
  };
  if (names.length === 0)
    return (
      <Box as="p" muted>
        It has no picture. A supplier’s file, or its “{held.label}” under Values, gives it one.
      </Box>
    );
  return (
    <Box as="ol" unmarked columns="repeat(auto-fill, minmax(150px, 1fr))" gap={4} above={2} aria-label="Pictures">
      {names.map((name, i) => (
        <Box as="li" key={name}>
          <Thumb name={name} size={132} />
          <Box small cut title={name}>
            {i === 0 && <b>first · </b>}
            {name}
          </Box>
          <Box row wrap gap={0}>
            <Button
              color="inherit"
              sx={{ p: 0.5, minWidth: 0 }}
              disabled={i === 0}
              aria-label={`${name} earlier`}
              onClick={() => write(moved(i, i - 1))}
            >
              Earlier
            </Button>
            <Button
              color="inherit"
              sx={{ p: 0.5, minWidth: 0 }}
              disabled={i === names.length - 1}
              aria-label={`${name} later`}
              onClick={() => write(moved(i, i + 1))}
            >
              Later
            </Button>
            <Button
              color="inherit"
              sx={{ p: 0.5, minWidth: 0 }}
              aria-label={`Take ${name} out`}
              onClick={() => write(names.filter((_, at) => at !== i))}
            >
              Take out
            </Button>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
