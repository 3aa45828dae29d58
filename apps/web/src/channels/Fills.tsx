/** The channel’s attributes and how each gets its value; the rule beside what it gives. */
import { Box } from '../design/Box';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import { type FillRule, sayRule } from '@velvet-shelf/core/fills';
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
                          say(row.fill.rule, (name) => nameIn([...row.sources, ...compared], name))
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

const say = (rule: FillRule, source: (name: string) => string) =>
  sayRule(rule, { source, condition: (condition) => sayCondition(condition, source) });

const nameIn = (known: readonly { name: string; label: string }[], name: string) =>
  known.find((row) => row.name === name)?.label ?? name;
