import { Box } from '../design/Box';
import { Share } from '../design/Share';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { type TodayAnswer, api } from '@velvet-shelf/contract';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { Link } from 'react-router';
import type { z } from 'zod';
import { ask } from '../api/ask';
import { Loaded } from '../design/feedback';
import { State } from '../design/State';
import { clock, count } from '../design/words';
import { Steps } from '../moving-in/Steps';

export function Today() {
  const today = useQuery(ask(api.today.today));
  const steps = useQuery(ask(api.movingIn.steps));
  const [isLeft, setLeft] = useState(() => localStorage.getItem(slot) !== null);
  const leave = (left: boolean) => {
    if (left) localStorage.setItem(slot, 'yes');
    else localStorage.removeItem(slot);
    setLeft(left);
  };
  return (
    <Loaded query={today}>
      {(data) => (
        <Loaded query={steps}>{(way) => <Page data={data} way={way} isLeft={isLeft} onLeave={leave} />}</Loaded>
      )}
    </Loaded>
  );
}

/** Whether somebody left the way to a first feed; it can be taken up again. */
const slot = 'velvet.steps.left';

type Way = z.output<typeof api.movingIn.steps.answer>;

function Page({
  data,
  way,
  isLeft,
  onLeave,
}: {
  data: TodayAnswer;
  way: Way;
  isLeft: boolean;
  onLeave: (left: boolean) => void;
}) {
  const isMoving = way.items.some(({ isDone }) => !isDone);
  const showsWay = isMoving && !isLeft;
  const { waiting } = data;
  return (
    <>
      <Box as="section" scroll wide={560} fixed pad={[5, 6]} line="right">
        <Box small muted>
          {new Date().toLocaleDateString(navigator.language, { weekday: 'long', day: 'numeric', month: 'long' })}
        </Box>
        <Box as="h1" below={4}>
          {showsWay ? way.headline : data.headline}
        </Box>
        {showsWay && <Steps steps={way.items} onLeave={() => onLeave(true)} />}
        {isMoving && isLeft && (
          <Button color="secondary" sx={{ p: 0 }} onClick={() => onLeave(false)}>
            Take up the way to a first feed
          </Button>
        )}
        {!(showsWay && waiting.length === 0) && (
          <Box as="h2" around={[showsWay ? 5 : 1.5, 0, 2]}>
            Waiting for you
          </Box>
        )}
        {waiting.length === 0 && !showsWay && (
          <Box as="p" muted>
            Nothing waits. Drop a supplier’s file at Intake to go on.
          </Box>
        )}
        {waiting.map((row) => (
          <Box row gap={3.5} pad={[2.5, 0]} line="top" key={row.words}>
            <Box num serif wide={52} textSize={22}>
              {count(row.count)}
            </Box>
            <Box grow>
              <div>{row.words}</div>
              {row.detail && (
                <Box small muted>
                  {row.detail}
                </Box>
              )}
            </Box>
            <Button component={Link} to={row.to} variant="outlined" color="inherit">
              {row.verb}
            </Button>
          </Box>
        ))}
      </Box>
      <Box as="section" scroll grow pad={[5, 6]} surface="card">
        <Box row>
          <Box as="h2" grow>
            Where everything stands
          </Box>
          <Box as="span" small muted>
            {count(data.places.reduce((sum, place) => sum + place.listings, 0))} listings
          </Box>
        </Box>
        {data.places.length === 0 && (
          <Box as="p" muted>
            Nothing is listed yet: there is no place.
          </Box>
        )}
        <Standing places={data.places} />
        <Box as="h2" around={[5.5, 0, 1]}>
          What changed
        </Box>
        {data.changes.length === 0 && (
          <Box as="p" muted>
            Nothing yet.
          </Box>
        )}
        {data.changes.map((change, i) => (
          <Box row pad={[1.5, 0]} line="top" textSize={12.5} align="baseline" key={i}>
            <Box as="time" wide={92} tone="faint" fixed>
              {clock(change.at)}
            </Box>
            <Box as="span" grow>
              {change.to ? (
                <Box as={Link} underlined to={change.to} className="plain">
                  {change.words}
                </Box>
              ) : (
                change.words
              )}
            </Box>
            <Box as="span" small muted>
              {change.actor}
            </Box>
          </Box>
        ))}
      </Box>
    </>
  );
}

/** Two ways to look at the same listings; each figure is the one that the page it leads to counts. */
const lines = [
  {
    title: 'Fit to send',
    field: 'readiness',
    parts: [
      ['ready', 'ready', 'ready'],
      ['blocked', 'blocked', 'blocked'],
      ['not for this channel', 'not for this channel', 'none'],
    ],
  },
  {
    title: 'On the channel',
    field: 'channelState',
    parts: [
      ['live', 'live', 'live'],
      ['draft there', 'draft there', 'draft'],
      ['hidden', 'hidden', 'hidden'],
      ['queued', 'queued', 'queued'],
      ['sent', 'unanswered', 'sent'],
      ['refused', 'refused', 'refused'],
      ['withdrawn', 'withdrawn', 'withdrawn'],
      ['none', 'never sent', 'none'],
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
        <Box above={3} key={place.id}>
          <Box as={Link} grow strong to={`/places/${place.id}`} className="plain">
            {place.name}
          </Box>
          {lines.map((line) => (
            <Bar key={line.field} place={place} line={line} width={width} />
          ))}
        </Box>
      ))}
    </>
  );
}

function Bar({ place, line, width }: { place: Place; line: Line; width: (listings: number) => number }) {
  const parts = line.parts
    .map(([value, word, state]) => ({ value, word, state, n: listingsOf(place, line.field, value) }))
    .filter(({ n }) => n > 0);
  return (
    <>
      <Box
        row
        align="stretch"
        gap={0.5}
        high={16}
        above={1.5}
        role="img"
        aria-label={`${line.title}: ${parts.map(({ word, n }) => `${n} ${word}`).join(', ')}`}
      >
        {parts.map(({ value, word, state, n }) => (
          <Share key={value} title={`${n} ${word}`} percent={width(n)} state={state} />
        ))}
      </Box>
      <Box wrap row gap={4} above={1}>
        <Box as="span" small muted wide={96}>
          {line.title}
        </Box>
        {parts.map(({ value, word, n }) => (
          <Link key={value} to={`/listings?place=${place.id}&${line.field}=${value}`} className="plain">
            <State is={word}>
              {count(n)} {word}
            </State>
          </Link>
        ))}
      </Box>
    </>
  );
}

const listingsOf = ({ totals }: Place, field: Line['field'], value: string) =>
  totals.filter((total) => total[field] === value).reduce((sum, row) => sum + row.listings, 0);
