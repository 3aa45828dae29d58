/** Pairs ranked by their evidence; one key decides: S the same goods, D different, arrows move. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type PairAnswer, api } from '@velvet-shelf/contract';
import { useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { SearchBox } from '../design/SearchBox';
import { count, plural } from '../design/words';
import { Sides } from './Sides';
import { Unsure } from './Unsure';

interface Wish {
  verdict: 'same' | 'different';
  pairs?: { a: number; b: number }[];
  above?: number;
  sure?: boolean;
}

const pairsAddress = z.object({ search: inAddress.search, pair: inAddress.text });

export function Pairs() {
  const [address, set] = useAddress(pairsAddress);
  /** Pairs that are joined only where somebody is sure. */
  const [unsure, setUnsure] = useState<{ a: number; b: number; words: string }[]>([]);
  const queries = useQueryClient();
  const tell = useTell();
  const pairs = useQuery({
    ...ask(api.matching.pairs, { query: { search: address.search } }),
    placeholderData: keepPreviousData,
  });
  const items = pairs.data?.items ?? [];
  const found = items.findIndex((pair) => keyOf(pair) === address.pair);
  const index = Math.max(0, found);
  const chosen = items[index];
  const go = (to: number) => {
    const next = items[Math.min(items.length - 1, Math.max(0, to))];
    set({ pair: next && keyOf(next) }, { replace: true });
  };
  const decide = useMutation({
    mutationFn: (body: Wish) => call(api.matching.decide, { body }),
    onSuccess: ({ done, left, unsure }, { verdict, pairs: named }) => {
      setUnsure(unsure);
      if (unsure.length > 0 && done === 0 && named) return;
      const words =
        done === 0 ? 'Nothing was decided' : `${plural(done, 'pair')} ${verdict === 'same' ? 'joined' : 'kept apart'}`;
      const kept = [...left, ...unsure.map((row) => row.words)];
      tell(
        kept.length > 0 ? `${words}. ${count(kept.length)} left: ${kept[0]}` : words,
        done === 0 ? 'error' : 'success',
      );
      const next = items[index + 1] ?? items[index - 1];
      if (named && next) go(items.indexOf(next));
      void queries.invalidateQueries();
    },
  });
  const look = useMutation({
    mutationFn: () => call(api.matching.propose),
    onSuccess: () => queries.invalidateQueries(),
  });

  const onKey = useRef<(event: KeyboardEvent) => void>(() => undefined);
  useEffect(() => {
    onKey.current = (event) => {
      const typing = (event.target as HTMLElement).closest('input, textarea, [contenteditable]');
      if (typing || event.ctrlKey || event.metaKey || event.altKey || !chosen || decide.isPending) return;
      const pair = [{ a: chosen.a.id, b: chosen.b.id }];
      if (event.key === 's') decide.mutate({ verdict: 'same', pairs: pair });
      else if (event.key === 'd') decide.mutate({ verdict: 'different', pairs: pair });
      else if (event.key === 'ArrowDown') go(index + 1);
      else if (event.key === 'ArrowUp') go(index - 1);
      else return;
      event.preventDefault();
    };
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey.current(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);

  return (
    <Loaded query={pairs}>
      {(data) => (
        <Box grow row align="stretch" gap={0} minHigh={0}>
          <Box col wide={430} fixed line="right" minHigh={0}>
            <Box pad={[2.5, 4]}>
              <b>
                {data.total === 0
                  ? 'No pair waits'
                  : `${plural(data.total, 'pair looks', 'pairs look')} like the same goods`}
              </b>
              <Box wrap row gap={1.5} above={1.5}>
                <SearchBox
                  label="Find goods"
                  value={address.search}
                  onSearch={(search) => set({ search }, { replace: true })}
                  wide={130}
                />
                {data.above
                  .filter((row, i) => row.pairs > 0 && row.pairs !== data.above[i - 1]?.pairs && row.score >= 70)
                  .map((row) => (
                    <Chip
                      key={row.score}
                      variant="outlined"
                      label={`Join all ${count(row.pairs)} from ${row.score}`}
                      disabled={decide.isPending}
                      onClick={() => decide.mutate({ verdict: 'same', above: row.score })}
                    />
                  ))}
                <Chip variant="outlined" label="Look again" disabled={look.isPending} onClick={() => look.mutate()} />
              </Box>
            </Box>
            <Box as="ol" grow scroll unmarked aria-label="Pairs">
              {items.map((pair, i) => (
                <li key={keyOf(pair)}>
                  <PairButton pair={pair} on={i === index} onOpen={() => go(i)} />
                </li>
              ))}
            </Box>
          </Box>
          {chosen ? (
            <Decision
              key={keyOf(chosen)}
              pair={chosen}
              place={`${index + 1} of ${count(data.total)}`}
              error={decide.error}
              busy={decide.isPending}
              unsure={unsure.find((row) => row.a === chosen.a.id && row.b === chosen.b.id)?.words}
              onDecide={(verdict, sure) =>
                decide.mutate({ verdict, pairs: [{ a: chosen.a.id, b: chosen.b.id }], ...(sure ? { sure } : {}) })
              }
              onSkip={() => go(index + 1)}
            />
          ) : (
            <Box grow>
              <Empty title="Nothing waits for you here">
                When a batch brings goods that look like others, the pairs stand here with what speaks for and against
                them.
              </Empty>
            </Box>
          )}
        </Box>
      )}
    </Loaded>
  );
}

const keyOf = (pair: PairAnswer) => `${pair.a.id}-${pair.b.id}`;

function PairButton({ pair, on, onOpen }: { pair: PairAnswer; on: boolean; onOpen: () => void }) {
  const box = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (on) box.current?.scrollIntoView({ block: 'nearest' });
  }, [on]);
  return (
    <button type="button" ref={box} className={`pair ${on ? 'on' : ''}`} aria-current={on} onClick={onOpen}>
      <span className="score">{pair.score}</span>
      <Box as="span" minWide={0}>
        <Box as="span" cut block>
          {pair.a.title ?? pair.a.sku}
        </Box>
        <Box as="span" small muted cut block>
          {pair.b.title ?? pair.b.sku} · {pair.b.sources.map((source) => source.supplier).join(', ')}
        </Box>
      </Box>
    </button>
  );
}

function Decision({
  pair,
  place,
  error,
  busy,
  unsure,
  onDecide,
  onSkip,
}: {
  pair: PairAnswer;
  place: string;
  error: unknown;
  busy: boolean;
  /** Why it was asked once more. */
  unsure: string | undefined;
  onDecide: (verdict: 'same' | 'different', sure?: boolean) => void;
  onSkip: () => void;
}) {
  const compared = useQuery(ask(api.matching.compare, { query: { a: pair.a.id, b: pair.b.id } }));
  return (
    <Box col grow minWide={0} surface="card">
      <Box grow scroll pad={[3.5, 5]} role="region" aria-label="The pair" tabIndex={0}>
        <Box small muted>
          Pair {place}
        </Box>
        <Box as="h2" around={[0.5, 0, 2]}>
          Are these the same goods?
        </Box>
        <div>
          {pair.evidence.map((row) => (
            <span key={row.words} className={`bit ${row.points < 0 ? 'against' : ''}`}>
              {row.points < 0 ? '✕ ' : '✓ '}
              {row.words} {row.points > 0 ? '+' : ''}
              {Math.round(row.points)}
            </span>
          ))}
        </div>
        {Boolean(error) && <ProblemBox error={error} />}
        {unsure && <Unsure words={unsure} isBusy={busy} onSure={() => onDecide('same', true)} />}
        <Box above={1.5}>
          <Loaded query={compared}>{(data) => <Sides data={data} onlyShared={false} />}</Loaded>
        </Box>
      </Box>
      <Box row pad={[3, 5]} surface="brass" gap={2.5}>
        <Box grow>
          <Box as="b" serif textSize={18}>
            {pair.score} of 100
          </Box>
          <Box small muted>
            Joined goods can be split again; kept apart, they are not proposed any more.
          </Box>
        </Box>
        <Button variant="outlined" color="inherit" onClick={onSkip}>
          Later<kbd className="key">↓</kbd>
        </Button>
        <Button variant="outlined" disabled={busy} onClick={() => onDecide('different')}>
          Different<kbd className="key">D</kbd>
        </Button>
        <Button variant="contained" disabled={busy} onClick={() => onDecide('same')}>
          The same goods<kbd className="key">S</kbd>
        </Button>
      </Box>
    </Box>
  );
}
