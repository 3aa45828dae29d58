/** The path of a value: from the channel’s field back to the supplier’s cell, with an edit at each step. */
import { Box } from '../design/Box';
import { useQuery } from '@tanstack/react-query';
import { type TraceAnswer, api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { fillAddress } from '../channels/fillAt';
import { Loaded } from '../design/feedback';

export function Trace({ listingId, attribute }: { listingId: number; attribute: string }) {
  const trace = useQuery(ask(api.listings.trace, { params: { id: listingId, attribute } }));
  return (
    <Loaded query={trace}>
      {({ label, steps }) => (
        <ol className="trace" aria-label={`Trace of ${label}`}>
          {steps.map((step, i) => (
            <li key={i}>
              <Box as="span" grow>
                {i === 0 ? <b>{label}: </b> : null}
                {step.words}
                {step.value !== null && (
                  <code>{step.value.length > 160 ? `${step.value.slice(0, 160)}…` : step.value}</code>
                )}
                {step.edit && <EditLink edit={step.edit} />}
              </Box>
            </li>
          ))}
        </ol>
      )}
    </Loaded>
  );
}

function EditLink({ edit }: { edit: NonNullable<TraceAnswer['edit']> }) {
  switch (edit.to) {
    case 'fill':
      return <Link to={fillAddress(edit.placeId, edit)}>Edit the fill</Link>;
    case 'product':
      return (
        <Link
          to={`/catalog?open=${edit.productId}&attribute=${edit.attribute}&tab=${['title', 'description'].includes(edit.attribute) ? 'texts' : 'facts'}`}
        >
          Edit the value
        </Link>
      );
    case 'stock':
      return <Link to={`/catalog?open=${edit.productId}&tab=stock`}>Open the stock</Link>;
    case 'batch':
      return <Link to={`/intake/${edit.batchId}?tab=rows&row=${edit.row}`}>Open the batch at this row</Link>;
  }
}
