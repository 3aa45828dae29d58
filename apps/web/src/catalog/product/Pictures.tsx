/** Pictures in their order, the first of them the one that stands for the product; brought in, moved and taken out as values are written. */
import Button from '@mui/material/Button';
import type { ProductAnswer } from '@velvet-shelf/contract';
import { Box } from '../../design/Box';
import { Ordered } from '../../design/Ordered';
import { Thumb } from '../../design/Thumb';
import { Arriving } from '../../files/Arriving';
import { pictureWays } from '../../pictures/ways';
import '../../pictures/pictures.css';
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
  const names = [...new Set(text.split(parting).flatMap((name) => name.trim() || []))];
  const write = (to: readonly string[]) => draft.write([product.id], held.attribute, to.join(mark), held.text ?? '');
  return (
    <>
      {names.length === 0 && (
        <Box as="p" muted>
          It has no picture yet.
        </Box>
      )}
      <Ordered label="Pictures" ids={names} nameOf={(name) => name} isAcross className="hung" onOrder={write}>
        {(name, place, handle) => (
          <>
            <span className="handle" {...handle} aria-label={`${name}, place ${place}`}>
              <Thumb name={name} size={132} />
            </span>
            <Box small cut title={name}>
              {place === 1 && <b>first · </b>}
              {name}
            </Box>
            <Button
              color="inherit"
              sx={{ p: 0.5, minWidth: 0 }}
              aria-label={`Take ${name} out`}
              onClick={() => write(names.filter((other) => other !== name))}
            >
              Take out
            </Button>
          </>
        )}
      </Ordered>
      <Box above={4}>
        <Arriving
          ways={pictureWays}
          hint="They come behind those there are, and are saved with the rest of the page."
          onCame={(pictures) => write([...new Set([...names, ...pictures.map(({ name }) => name)])])}
        />
      </Box>
    </>
  );
}
