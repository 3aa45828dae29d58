import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { type TodayAnswer, api } from '@velvet-shelf/contract';
import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { call } from '../api/call';
import { Loaded } from '../design/feedback';
import { State } from '../design/State';
import { clock, count } from '../design/words';

export function Today() {
  const today = useQuery({ queryKey: ['today'], queryFn: () => call(api.today.today) });
  return <Loaded query={today}>{(data) => <Page data={data} />}</Loaded>;
}

function Page({ data }: { data: TodayAnswer }) {
  return (
    <>
      <section
        className="scroll"
        style={{ width: 560, flex: 'none', padding: '20px 24px', borderRight: '1px solid var(--line)' }}
      >
        <div className="muted small">
          {new Date().toLocaleDateString(navigator.language, { weekday: 'long', day: 'numeric', month: 'long' })}
        </div>
        <h1 style={{ marginBottom: 16 }}>{data.headline}</h1>
        <h2 style={{ margin: '6px 0 8px' }}>Waiting for you</h2>
        {data.waiting.length === 0 && (
          <p className="muted">Nothing waits. Drop a supplier’s file at Intake to go on.</p>
        )}
        {data.waiting.map((row) => (
          <div
            key={row.words}
            className="row"
            style={{ gap: 14, padding: '10px 0', borderTop: '1px solid var(--line)' }}
          >
            <div className="serif num" style={{ width: 52, fontSize: 22 }}>
              {count(row.count)}
            </div>
            <div className="grow">
              <div>{row.words}</div>
              {row.detail && <div className="muted small">{row.detail}</div>}
            </div>
            <Button
              component={Link}
              to={row.to}
              variant="outlined"
              color="inherit"
              sx={{ borderColor: 'var(--line-strong)' }}
            >
              {row.verb}
            </Button>
          </div>
        ))}
      </section>
      <section className="grow scroll" style={{ padding: '20px 24px', background: 'var(--card)' }}>
        <div className="row">
          <h2 className="grow">Where everything stands</h2>
          <span className="muted small">
            {count(data.places.reduce((sum, place) => sum + place.listings, 0))} listings
          </span>
        </div>
        <Standing places={data.places} />
        <h2 style={{ margin: '22px 0 4px' }}>What changed</h2>
        {data.changes.length === 0 && <p className="muted">Nothing yet.</p>}
        {data.changes.map((change, i) => (
          <div
            key={i}
            className="row"
            style={{ padding: '6px 0', borderTop: '1px solid var(--line)', fontSize: 12.5, alignItems: 'baseline' }}
          >
            <time style={{ width: 92, color: 'var(--ink-3)', flex: 'none' }}>{clock(change.at)}</time>
            <span className="grow">
              {change.to ? (
                <Link
                  to={change.to}
                  className="plain"
                  style={{ textDecoration: 'underline', textDecorationColor: 'var(--line-strong)' }}
                >
                  {change.words}
                </Link>
              ) : (
                change.words
              )}
            </span>
            <span className="muted small">{change.actor}</span>
          </div>
        ))}
      </section>
    </>
  );
}

/** Two ways to look at the same listings; each figure is the one that the page it leads to counts. */
const lines = [
  {
    title: 'Fit to send',
    field: 'readiness',
    parts: [
      ['ready', 'ready', 'var(--ready)'],
      ['blocked', 'blocked', 'var(--blocked)'],
      ['not for this channel', 'not for this channel', 'var(--line-strong)'],
    ],
  },
  {
    title: 'On the channel',
    field: 'channelState',
    parts: [
      ['live', 'live', 'var(--live)'],
      ['draft there', 'draft there', 'var(--velvet-200)'],
      ['hidden', 'hidden', 'var(--velvet-500)'],
      ['queued', 'queued', 'var(--brass)'],
      ['sent', 'unanswered', 'var(--brass-bright)'],
      ['refused', 'refused', 'var(--held)'],
      ['withdrawn', 'withdrawn', 'var(--ink-3)'],
      ['none', 'never sent', 'var(--line-strong)'],
    ],
  },
] as const;

type Line = (typeof lines)[number];
type Place = TodayAnswer['places'][number];

/** Bars of where listings stand, with the same figures in words. */
function Standing({ places }: { places: Place[] }) {
  const width = scaleLinear([0, Math.max(1, ...places.map((place) => place.listings))], [0, 100]);
  return (
    <>
      {places.map((place) => (
        <div key={place.id} style={{ marginTop: 12 }}>
          <Link to={`/places/${place.id}`} className="plain grow" style={{ fontWeight: 600 }}>
            {place.name}
          </Link>
          {lines.map((line) => (
            <Bar key={line.field} place={place} line={line} width={width} />
          ))}
        </div>
      ))}
    </>
  );
}

function Bar({ place, line, width }: { place: Place; line: Line; width: (listings: number) => number }) {
  const parts = line.parts
    .map(([value, word, colour]) => ({ value, word, colour, n: listingsOf(place, line.field, value) }))
    .filter(({ n }) => n > 0);
  return (
    <>
      <div
        role="img"
        aria-label={`${line.title}: ${parts.map(({ word, n }) => `${n} ${word}`).join(', ')}`}
        style={{ display: 'flex', gap: 2, height: 16, marginTop: 6 }}
      >
        {parts.map(({ value, word, colour, n }) => (
          <div
            key={value}
            title={`${n} ${word}`}
            style={{ width: `${width(n)}%`, background: colour, borderRadius: 2 }}
          />
        ))}
      </div>
      <div className="row wrap" style={{ gap: 16, marginTop: 4 }}>
        <span className="muted small" style={{ width: 96 }}>
          {line.title}
        </span>
        {parts.map(({ value, word, n }) => (
          <Link key={value} to={`/listings?place=${place.id}&${line.field}=${value}`} className="plain">
            <State is={word}>
              {count(n)} {word}
            </State>
          </Link>
        ))}
      </div>
    </>
  );
}

const listingsOf = ({ totals }: Place, field: Line['field'], value: string) =>
  totals.filter((total) => total[field] === value).reduce((sum, row) => sum + row.listings, 0);
