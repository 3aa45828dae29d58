/** One listing: every value the channel gets, its findings, and the trace of any of them. */
import { useQuery } from '@tanstack/react-query';
import { type ListingAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { Loaded } from '../design/feedback';
import { State } from '../design/State';
import { Thumb } from '../design/Thumb';
import { Pin } from './Pin';
import { Trace } from './Trace';

export function Listing({ id }: { id: number }) {
  const listing = useQuery({
    queryKey: ['listing', id],
    queryFn: () => call(api.listings.listing, { params: { id } }),
  });
  return <Loaded query={listing}>{(data) => <Page key={id} listing={data} />}</Loaded>;
}

function Page({ listing }: { listing: ListingAnswer }) {
  const [traced, setTraced] = useState<string>();
  const loose = listing.findings.filter(
    (finding) => !listing.values.some((value) => value.attribute === finding.attribute),
  );
  return (
    <>
      <div className="row" style={{ alignItems: 'flex-start', gap: 14, paddingRight: 30 }}>
        <Thumb name={listing.picture} size={52} />
        <div className="grow">
          <h2>{listing.title ?? listing.sku}</h2>
          <div className="muted small">
            {listing.place} · <Link to={`/catalog?open=${listing.variantId}`}>{listing.sku ?? 'the product'}</Link>
          </div>
          <div className="row" style={{ marginTop: 4, gap: 14 }}>
            <State is={listing.readiness} />
            {listing.channelState !== 'none' && <State is={listing.channelState} />}
            {listing.externalId && <span className="muted small">{listing.externalId}</span>}
            {listing.liveAddress && (
              <a href={listing.liveAddress} target="_blank" rel="noreferrer">
                Open the live page
              </a>
            )}
          </div>
        </div>
      </div>
      {listing.notFor && <p>{listing.notFor}</p>}
      {loose.map((finding) => (
        <Finding key={finding.words} finding={finding} />
      ))}
      <p className="muted small" style={{ margin: '10px 0 2px' }}>
        What the channel gets. Choose a value to see where it comes from.
      </p>
      {listing.values.map((value) => (
        <div key={value.attribute} style={{ borderBottom: '1px solid var(--line)' }}>
          <button
            type="button"
            className="traceable"
            aria-expanded={traced === value.attribute}
            onClick={() => setTraced(traced === value.attribute ? undefined : value.attribute)}
          >
            <span style={{ width: 116, flex: 'none', color: 'var(--ink-2)', fontSize: 12.5 }}>
              {value.label}
              {value.need === 'required' && <span title="required"> *</span>}
              {value.pinned !== null && <i> pinned</i>}
            </span>
            <span className="grow" style={{ overflowWrap: 'anywhere' }}>
              {value.value === null ? (
                <span className="muted">
                  {value.need === 'required' ? <State is="blocked">nothing yet</State> : 'nothing'}
                </span>
              ) : value.value.length > 170 ? (
                `${value.value.slice(0, 170)}…`
              ) : (
                value.value
              )}
            </span>
          </button>
          {value.findings.map((finding) => (
            <Finding key={finding.words} finding={finding} />
          ))}
          {traced === value.attribute && (
            <>
              <Trace listingId={listing.id} attribute={value.attribute} />
              <Pin listing={listing} value={value} />
            </>
          )}
        </div>
      ))}
    </>
  );
}

function Finding({ finding }: { finding: ListingAnswer['findings'][number] }) {
  return (
    <div className="row small finding" style={{ padding: '2px 0 6px 126px', alignItems: 'baseline' }}>
      <State is={finding.severity === 'blocker' ? 'blocked' : 'advice'}>{finding.words}</State>
      <Link
        to={`/causes?${finding.severity === 'advice' ? 'show=advice&' : ''}cause=${encodeURIComponent(finding.cause)}`}
      >
        Fix the cause
      </Link>
    </div>
  );
}
