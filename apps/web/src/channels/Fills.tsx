/** The channel’s attributes and how each gets its value; the rule beside what it gives. */
import { Box } from '../design/Box';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import { type FillRule, sayRule } from '@velvet-shelf/core/fills';
import { operators } from '../catalog/ComparisonFields';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { DataTable } from '../design/DataTable';
import { Loaded } from '../design/feedback';
import { count, plural } from '../design/words';
import { useCompared } from './compared';
import { FillEditor } from './FillEditor';
import { SuggestedFills } from './SuggestedFills';

const fillsAddress = z.object({ attribute: inAddress.text, market: inAddress.text, category: inAddress.text });

export function Fills({ placeId }: { placeId: number }) {
  const [address, set] = useAddress(fillsAddress);
  const compared = useCompared().data ?? [];
  const fills = useQuery(ask(api.channels.fills, { params: { id: placeId } }));
  return (
    <Loaded query={fills}>
      {({ items }) => {
        const chosen = items.find((row) => row.key === address.attribute) ?? items[0];
        const at = { market: address.market ?? '', category: address.category ?? '' };
        return (
          <Box grow row align="stretch" gap={0} minHigh={0}>
            <Box scroll wide={560} fixed line="right" pad={[0, 0, 5, 6]}>
              <SuggestedFills placeId={placeId} attributes={items} />
              <DataTable
                label="Attributes of the channel"
                rows={items}
                keyOf={({ key }) => key}
                chosen={chosen?.key}
                onChoose={({ key }) => set({ attribute: key, market: undefined, category: undefined })}
                columns={[
                  {
                    head: 'Attribute',
                    sortBy: ({ label }) => label,
                    cell: (row) => (
                      <>
                        <button type="button" className="value">
                          <Box as="b" strong>
                            {row.label}
                          </Box>
                        </button>
                        <Box small muted>
                          {[row.need, ...row.limits].join(' · ')}
                        </Box>
                      </>
                    ),
                  },
                  {
                    head: 'Filled by',
                    look: { small: true },
                    cell: (row) =>
                      row.fill ? (
                        <>
                          {say(row.fill.rule, (name) => nameIn([...row.sources, ...compared], name))}
                          {row.slots.length > 1 && (
                            <Box muted>otherwise for {plural(row.slots.length - 1, 'kind')} of goods</Box>
                          )}
                          {row.covers && (
                            <Box tone="advice">for goods with {count(row.covers.distinct)} of their own</Box>
                          )}
                        </>
                      ) : (
                        <Box as="span" tone={row.need === 'optional' ? 'muted' : 'blocked'}>
                          nothing
                        </Box>
                      ),
                  },
                  {
                    head: 'Filled',
                    sortBy: ({ filled }) => filled,
                    cell: ({ filled }) => count(filled),
                    look: { num: true },
                  },
                  {
                    head: 'Empty',
                    sortBy: ({ missing }) => missing,
                    cell: ({ missing }) => count(missing),
                    headLook: { num: true },
                    look: ({ missing, need }) => ({
                      num: true,
                      tone: missing > 0 && need === 'required' ? 'blocked' : undefined,
                      strong: missing > 0 && need === 'required',
                    }),
                  },
                ]}
              />
            </Box>
            {chosen && (
              <FillEditor
                key={JSON.stringify([chosen.key, chosen.slots.map(({ market, category }) => [market, category]), at])}
                placeId={placeId}
                attribute={chosen}
                at={at}
                onAt={({ market, category }) => set({ market: market || undefined, category: category || undefined })}
              />
            )}
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
