/** The channel’s attributes and how each gets its value; the rule beside what it gives. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import type { FillRule } from '@velvet-shelf/core/fills';
import { operators } from '../catalog/ComparisonFields';
import { useSearchParams } from 'react-router';
import { call } from '../api/call';
import { Loaded } from '../design/feedback';
import { count } from '../design/words';
import { useCompared } from './compared';
import { FillEditor } from './FillEditor';

export function Fills({ placeId }: { placeId: number }) {
  const [params, setParams] = useSearchParams();
  const compared = useCompared().data ?? [];
  const fills = useQuery({
    queryKey: ['fills', placeId],
    queryFn: () => call(api.channels.fills, { params: { id: placeId } }),
  });
  return (
    <Loaded query={fills}>
      {({ items }) => {
        const chosen = items.find((row) => row.key === params.get('attribute')) ?? items[0];
        return (
          <div className="grow" style={{ display: 'flex', minHeight: 0 }}>
            <div
              className="scroll"
              style={{ width: 560, flex: 'none', borderRight: '1px solid var(--line)', padding: '0 0 20px 24px' }}
            >
              <table className="plain">
                <thead>
                  <tr>
                    <th>Attribute</th>
                    <th>Filled by</th>
                    <th className="num">Filled</th>
                    <th className="num">Empty</th>
                  </tr>
                </thead>
                <tbody>
                  {items.map((row) => (
                    <tr
                      key={row.key}
                      style={{
                        cursor: 'pointer',
                        background: row.key === chosen?.key ? 'var(--velvet-100)' : undefined,
                      }}
                      onClick={() => setParams({ attribute: row.key })}
                    >
                      <td>
                        <button type="button" className="value" onClick={() => setParams({ attribute: row.key })}>
                          <b style={{ fontWeight: 600 }}>{row.label}</b>
                        </button>
                        <div className="muted small">{[row.need, ...row.limits].join(' · ')}</div>
                      </td>
                      <td className="small">
                        {row.fill ? (
                          sayRule(row.fill.rule, (name) => nameIn([...row.sources, ...compared], name))
                        ) : (
                          <span style={{ color: row.need === 'optional' ? 'var(--ink-2)' : 'var(--blocked)' }}>
                            nothing
                          </span>
                        )}
                      </td>
                      <td className="num">{count(row.filled)}</td>
                      <td
                        className="num"
                        style={
                          row.missing > 0 && row.need === 'required' ? { color: 'var(--blocked)', fontWeight: 600 } : {}
                        }
                      >
                        {count(row.missing)}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            {chosen && <FillEditor key={chosen.key} placeId={placeId} attribute={chosen} />}
          </div>
        );
      }}
    </Loaded>
  );
}

/** "stock is at least 1" */
function sayCondition(condition: Condition, label: (name: string) => string): string {
  if (!('attribute' in condition)) return 'several things hold';
  const { attribute, op, value } = condition;
  return [label(attribute), operators.find(([row]) => row === op)?.[1] ?? op, value ?? ''].join(' ').trim();
}

const nameIn = (known: readonly { name: string; label: string }[], name: string) =>
  known.find((row) => row.name === name)?.label ?? name;

function sayRule(rule: FillRule, label: (name: string) => string): string {
  switch (rule.kind) {
    case 'copy':
      return `copies ${label(rule.from)}`;
    case 'fixed':
      return `fixed: ${rule.value}`;
    case 'compose':
      return `composed of ${rule.parts.flatMap((part) => ('from' in part ? [label(part.from)] : [])).join(', ')}`;
    case 'translate':
      return `translates ${label(rule.from)} (${Object.keys(rule.table).length} pairs)`;
    case 'when':
      return `${rule.cases.map((part) => `when ${sayCondition(part.if, label)}, ${sayRule(part.then, label)}`).join('; ')}${rule.otherwise ? `; else ${sayRule(rule.otherwise, label)}` : '; else nothing'}`;
    case 'first':
      return `the first of: ${rule.of.map((fillRule) => sayRule(fillRule, label)).join('; ')}`;
  }
}
