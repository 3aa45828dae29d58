/** One listing: every value the channel gets, its findings, and the trace of any of them. */
import { Box } from '../design/Box';
import { useQuery } from '@tanstack/react-query';
import { type ListingAnswer, api } from '@velvet-shelf/contract';
import { isMarkup } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { Loaded } from '../design/feedback';
import { State } from '../design/State';
import { Thumb } from '../design/Thumb';
import { ShopperView } from '../channels/ShopperView';
import { Pin } from './Pin';
import { Trace } from './Trace';

export function Listing({ id }: { id: number }) {
  const listing = useQuery(ask(api.listings.listing, { params: { id } }));
  return <Loaded query={listing}>{(data) => <Page key={id} listing={data} />}</Loaded>;
}

function Page({ listing }: { listing: ListingAnswer }) {
  const [traced, setTraced] = useState<string>();
  const loose = listing.findings.filter(
    (finding) => !listing.values.some((value) => value.attribute === finding.attribute),
  );
  return (
    <>
      <Box row align="start" gap={3.5} padRight={7.5}>
        <Thumb name={listing.picture} size={52} />
        <Box grow>
          <h2>{listing.title ?? listing.sku}</h2>
          <Box small muted>
            {listing.place} · <Link to={`/catalog?open=${listing.variantId}`}>{listing.sku ?? 'the product'}</Link>
          </Box>
          <Box row above={1} gap={3.5}>
            <State is={listing.readiness} />
            {listing.channelState !== 'none' && <State is={listing.channelState} />}
            {listing.externalId && (
              <Box as="span" small muted>
                {listing.externalId}
              </Box>
            )}
            {listing.liveAddress && (
              <a href={listing.liveAddress} target="_blank" rel="noreferrer">
                Open the live page
              </a>
            )}
          </Box>
        </Box>
      </Box>
      {listing.notFor && <p>{listing.notFor}</p>}
      {loose.map((finding) => (
        <Finding key={finding.words} finding={finding} />
      ))}
      <Box as="p" small muted around={[2.5, 0, 0.5]}>
        What the channel gets. Choose a value to see where it comes from.
      </Box>
      {listing.values.map((value) => (
        <Box line="bottom" key={value.attribute}>
          <button
            type="button"
            className="traceable"
            aria-expanded={traced === value.attribute}
            onClick={() => setTraced(traced === value.attribute ? undefined : value.attribute)}
          >
            <Box as="span" wide={116} fixed tone="muted" textSize={12.5}>
              {value.label}
              {value.need === 'required' && <span title="required"> *</span>}
              {value.pinned !== null && <i> pinned</i>}
            </Box>
            <Box as="span" grow breaks>
              {value.value === null ? (
                <Box as="span" muted>
                  {value.need === 'required' ? <State is="blocked">nothing yet</State> : 'nothing'}
                </Box>
              ) : value.value.length > 170 ? (
                `${value.value.slice(0, 170)}…`
              ) : (
                value.value
              )}
            </Box>
          </button>
          {value.findings.map((finding) => (
            <Finding key={finding.words} finding={finding} />
          ))}
          {traced === value.attribute && (
            <>
              {value.value !== null && isMarkup(value.value) && (
                <ShopperView title={value.label} html={value.value} tags={value.tags} />
              )}
              <Trace listingId={listing.id} attribute={value.attribute} />
              <Pin listing={listing} value={value} />
            </>
          )}
        </Box>
      ))}
    </>
  );
}

function Finding({ finding }: { finding: ListingAnswer['findings'][number] }) {
  return (
    <Box small row pad={[0.5, 0, 1.5, 31.5]} align="baseline" className="finding">
      <State is={finding.severity === 'blocker' ? 'blocked' : 'advice'}>{finding.words}</State>
      <Box
        as={Link}
        fixed
        minHigh={24}
        to={`/causes?${finding.severity === 'advice' ? 'show=advice&' : ''}cause=${encodeURIComponent(finding.cause)}`}
      >
        Fix the cause
      </Box>
    </Box>
  );
}
