/** Causes: ranked at the left, the fix itself at the right. From top to bottom is clearing a desk. */
import Chip from '@mui/material/Chip';
import { useQuery } from '@tanstack/react-query';
import { type CauseAnswer, api } from '@velvet-shelf/contract';
import { useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Empty, Loaded } from '../design/feedback';
import { count, plural } from '../design/words';
import { CauseFix } from './CauseFix';

const kinds: Record<CauseAnswer['kind'], string> = {
  'map-category': 'category map',
  fill: 'fill',
  translate: 'value translation',
  fit: 'text does not fit',
  catalog: 'catalog',
  report: 'channel’s answer',
  pin: 'pinned value',
  axis: 'variants alike',
};

export function Causes() {
  const [params, setParams] = useSearchParams();
  const severity = params.get('show') === 'advice' ? 'advice' : 'blockers';
  const order = params.get('order') === 'touched' ? 'touched' : 'frees';
  const causes = useQuery({ queryKey: ['causes'], queryFn: () => call(api.causes.ranked) });
  const set = (key: string, value: string | undefined) =>
    setParams((now) => {
      const next = new URLSearchParams(now);
      if (value) next.set(key, value);
      else next.delete(key);
      if (key !== 'cause') next.delete('cause');
      return next;
    });
  return (
    <Loaded query={causes}>
      {(data) => {
        const base = severity === 'advice' ? data.advice : data.items;
        const list = order === 'touched' ? [...base].sort((a, b) => b.touched - a.touched) : base;
        const chosen = list.find((row) => row.key === params.get('cause')) ?? list[0];
        const index = chosen ? list.indexOf(chosen) : -1;
        const planned = data.plan.at(-1);
        const most = Math.max(1, ...list.map((row) => row.touched));
        return (
          <>
            <section className="col" style={{ width: 540, flex: 'none', borderRight: '1px solid var(--line)' }}>
              <div style={{ padding: '18px 20px 10px' }}>
                <h1>
                  {data.blocked > 0 ? `${plural(data.blocked, 'listing')} cannot go out` : 'Every listing can go out'}
                </h1>
                <div className="muted">
                  {plural(data.items.length, 'cause')}.
                  {planned && ` The best ${data.plan.length} together free ${count(planned.freed)}.`}
                </div>
              </div>
              <div className="row" style={{ padding: '0 20px 10px', gap: 6 }}>
                <Chip
                  label="What frees most"
                  variant={order === 'frees' ? 'filled' : 'outlined'}
                  onClick={() => set('order', undefined)}
                />
                <Chip
                  label="What touches most"
                  variant={order === 'touched' ? 'filled' : 'outlined'}
                  onClick={() => set('order', 'touched')}
                />
                <span className="grow" />
                <Chip
                  label={`Blockers ${data.items.length}`}
                  variant={severity === 'blockers' ? 'filled' : 'outlined'}
                  onClick={() => set('show', undefined)}
                />
                <Chip
                  label={`Advice ${data.advice.length}`}
                  variant={severity === 'advice' ? 'filled' : 'outlined'}
                  onClick={() => set('show', 'advice')}
                />
              </div>
              <ol className="scroll grow" style={{ listStyle: 'none', margin: 0, padding: 0 }} aria-label="Causes">
                {list.map((row, i) => (
                  <li key={row.key}>
                    <button
                      type="button"
                      className="cause"
                      aria-current={row.key === chosen?.key}
                      onClick={() => set('cause', row.key)}
                    >
                      <span className="serif muted" style={{ width: 22, textAlign: 'right' }}>
                        {i + 1}
                      </span>
                      <span className="grow">
                        <span style={{ fontSize: 14 }}>{row.words}</span>
                        <span style={{ display: 'block', margin: '1px 0 5px' }} className="muted small">
                          <span className="tag">{kinds[row.kind]}</span> {row.places.join(' · ')}
                        </span>
                        <span className="gauge">
                          <i style={{ width: `${(100 * row.touched) / most}%` }} />
                          <u style={{ width: `${(100 * row.unlocks) / most}%` }} />
                        </span>
                      </span>
                      <span style={{ width: 84, textAlign: 'right', lineHeight: 1.2 }}>
                        <b className="serif" style={{ fontSize: 20 }}>
                          {count(severity === 'advice' ? row.touched : row.unlocks)}
                        </b>
                        <span style={{ display: 'block', fontSize: 11.5 }}>
                          {severity === 'advice' ? 'touched' : 'unlocked'}
                        </span>
                        {severity !== 'advice' && (
                          <span className="muted" style={{ fontSize: 11 }}>
                            of {count(row.touched)} touched
                          </span>
                        )}
                      </span>
                    </button>
                  </li>
                ))}
                {list.length === 0 && (
                  <Empty title="This desk is clear">Nothing is blocked. Build the feed and send it.</Empty>
                )}
              </ol>
            </section>
            {chosen && (
              <CauseFix
                key={chosen.key}
                cause={chosen}
                position={`Cause ${index + 1} of ${list.length} · ${kinds[chosen.kind]} · ${chosen.places.join(', ')}`}
                onNext={() => set('cause', list[index + 1]?.key)}
              />
            )}
          </>
        );
      }}
    </Loaded>
  );
}
