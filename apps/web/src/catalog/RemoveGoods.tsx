/** A product taken out of the catalog: what goes with it first, and what happens where channels have it. */
import { useQuery } from '@tanstack/react-query';
import { type ProductAnswer, type RemovalAnswer, api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Loaded } from '../design/feedback';
import { Removal } from '../design/Removal';
import { plural } from '../design/words';

export function RemoveGoods({ product, onDone }: { product: ProductAnswer; onDone: () => void }) {
  return (
    <Removal
      of={product.title ?? product.sku ?? 'this product'}
      verb="Delete"
      goes={<GoesWith id={product.id} />}
      remove={() => call(api.byHand.remove, { params: { id: product.id } })}
      onDone={onDone}
    />
  );
}

function GoesWith({ id }: { id: number }) {
  const removal = useQuery(ask(api.byHand.goesWith, { params: { id } }));
  return <Loaded query={removal}>{(data) => sayRemoval(data)}</Loaded>;
}

function sayRemoval({ variants, sources, edits, stock, known }: RemovalAnswer): string {
  const goes = [
    plural(variants, 'variant'),
    edits > 0 && plural(edits, 'value set by hand', 'values set by hand'),
    stock > 0 && plural(stock, 'piece in stock', 'pieces in stock'),
  ];
  const silent = sources.map(({ supplier, records }) => `${supplier} (${plural(records, 'record')})`);
  return [
    `${goes.filter(Boolean).join(', ')}.`,
    silent.length > 0 && `${silent.join(', ')} will be silent until they are listed again.`,
    ...known.map(
      ({ place, listings }) => `${place}: ${plural(listings, 'listing')} will be withdrawn with the next file.`,
    ),
    'The history can bring it back.',
  ]
    .filter(Boolean)
    .join(' ');
}
