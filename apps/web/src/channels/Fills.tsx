/** The channel’s attributes and how each gets its value; the rule beside what it gives. */
import { Box } from '../design/Box';
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
          <Box grow row align="stretch" gap={0} minHigh={0}>
            <Box scroll wide={560} fixed line="right" pad={[0, 0, 5, 6]}>
              <table className="plain">
                <thead>
                  <tr>
                    <th>Attribute</th>
                    <th>Filled by</th>
                    <Box as="th" num>
                      Filled
                    </Box>
                    <Box as="th" num>
                      Empty
                    </Box>
                  </tr>
                </thead>
                <tbody>
                  {items.map((row) => (
                    <Box
                      as="tr"
                      choosable
                      chosen={row.key === chosen?.key}
                      key={row.key}

                      onClick={() => setParams({ attribute: row.key })}
                    >
                      <td>
                        <button type="button" className="value" onClick={() => setParams({ attribute: row.key })}>
                          <Box as="b" strong>
                            {row.label}
                          </Box>
                        </button>
                        <Box small muted>
                          {[row.need, ...row.limits].join(' · ')}
                        </Box>
                      </td>
                      <Box as="td" small>
                        {row.fill ? (
                          sayRule(row.fill.rule, (name) => nameIn([...row.sources, ...compared], name))
                        ) : (
                          <Box as="span" tone={row.need === 'optional' ? 'muted' : 'blocked'}>
                            nothing
                          </Box>
                        )}
                      </Box>
                      <Box as="td" num>
                        {count(row.filled)}
                      </Box>
                      <Box
                        as="td"
                        num
                        tone={row.missing > 0 && row.need === 'required' ? 'blocked' : undefined}
                        strong={row.missing > 0 && row.need === 'required'}
                      >
                        {count(row.missing)}
                      </Box>
                    </Box>
                  ))}
                </tbody>
              </table>
            </Box>
            {chosen && <FillEditor key={chosen.key} placeId={placeId} attribute={chosen} />}
          </Box>
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
