/** Pairs ranked by their evidence; one key decides: S the same goods, D different, arrows move. */
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type PairAnswer, api } from '@velvet-shelf/contract';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { count, plural } from '../design/words';
import { Sides } from './Sides';

interface Wish {
  verdict: 'same' | 'different';
  pairs?: { a: number; b: number }[];
  above?: number;
  sure?: boolean;
}

export function Pairs() {
  const [params, setParams] = useSearchParams();
  const [search, setSearch] = useState('');
  /** Pairs that are joined only where somebody is sure. */
  const [unsure, setUnsure] = useState<{ a: number; b: number; words: string }[]>([]);
  const asked = useDeferredValue(search);
  const queries = useQueryClient();
  const tell = useTell();
  const pairs = useQuery({
    queryKey: ['matches', asked],
    queryFn: () => call(api.matching.pairs, { query: { search: asked } }),
    placeholderData: keepPreviousData,
  });
  const items = pairs.data?.items ?? [];
  const found = items.findIndex((pair) => keyOf(pair) === params.get('pair'));
  const index = Math.max(0, found);
  const chosen = items[index];
  const go = (to: number) => {
    const next = items[Math.min(items.length - 1, Math.max(0, to))];
    setParams(
      (now) => {
        const all = new URLSearchParams(now);
        if (next) all.set('pair', keyOf(next));
        else all.delete('pair');
        return all;
      },
      { replace: true },
    );
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
        <div className="row grow" style={{ alignItems: 'stretch', gap: 0, minHeight: 0 }}>
          <div className="col" style={{ width: 430, flex: 'none', borderRight: '1px solid var(--line)', minHeight: 0 }}>
            <div style={{ padding: '10px 16px' }}>
              <b>
                {data.total === 0
                  ? 'No pair waits'
                  : `${plural(data.total, 'pair looks', 'pairs look')} like the same goods`}
              </b>
              <div className="row wrap" style={{ gap: 6, marginTop: 6 }}>
                <TextField
                  placeholder="Find goods"
                  value={search}
                  onChange={(event) => setSearch(event.target.value)}
                  slotProps={{ htmlInput: { 'aria-label': 'Find goods' } }}
                  sx={{ width: 130 }}
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
              </div>
            </div>
            <ol className="scroll grow" style={{ listStyle: 'none', margin: 0, padding: 0 }} aria-label="Pairs">
              {items.map((pair, i) => (
                <li key={keyOf(pair)}>
                  <PairButton pair={pair} on={i === index} onOpen={() => go(i)} />
                </li>
              ))}
            </ol>
          </div>
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
            <div className="grow">
              <Empty title="Nothing waits for you here">
                When a batch brings goods that look like others, the pairs stand here with what speaks for and against
                them.
              </Empty>
            </div>
          )}
        </div>
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
      <span style={{ minWidth: 0 }}>
        <span className="cut" style={{ display: 'block' }}>
          {pair.a.title ?? pair.a.sku}
        </span>
        <span className="cut muted small" style={{ display: 'block' }}>
          {pair.b.title ?? pair.b.sku} · {pair.b.sources.map((source) => source.supplier).join(', ')}
        </span>
      </span>
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
  const compared = useQuery({
    queryKey: ['compare', pair.a.id, pair.b.id],
    queryFn: () => call(api.matching.compare, { query: { a: pair.a.id, b: pair.b.id } }),
  });
  return (
    <div className="grow col" style={{ minWidth: 0, background: 'var(--card)' }}>
      <div className="scroll grow" style={{ padding: '14px 20px' }} role="region" aria-label="The pair" tabIndex={0}>
        <div className="muted small">Pair {place}</div>
        <h2 style={{ margin: '2px 0 8px' }}>Are these the same goods?</h2>
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
        {unsure && (
          <Alert
            severity="warning"
            sx={{ mt: 1 }}
            action={
              <Button color="inherit" disabled={busy} onClick={() => onDecide('same', true)}>
                Join all the same
              </Button>
            }
          >
            These two were not joined: {unsure}. Goods with two GTINs are usually two goods.
          </Alert>
        )}
        <div style={{ marginTop: 6 }}>
          <Loaded query={compared}>{(data) => <Sides data={data} onlyShared={false} />}</Loaded>
        </div>
      </div>
      <div className="row" style={{ padding: '12px 20px', background: 'var(--brass-tint)', gap: 10 }}>
        <div className="grow">
          <b className="serif" style={{ fontSize: 18 }}>
            {pair.score} of 100
          </b>
          <div className="muted small">
            Joined goods can be split again; kept apart, they are not proposed any more.
          </div>
        </div>
        <Button variant="outlined" color="inherit" onClick={onSkip}>
          Later<kbd className="key">↓</kbd>
        </Button>
        <Button variant="outlined" disabled={busy} onClick={() => onDecide('different')}>
          Different<kbd className="key">D</kbd>
        </Button>
        <Button variant="contained" disabled={busy} onClick={() => onDecide('same')}>
          The same goods<kbd className="key">S</kbd>
        </Button>
      </div>
    </div>
  );
}
