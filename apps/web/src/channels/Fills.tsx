/** The channel’s attributes and how each gets its value: the rules beside what they give, in all categories or in one. */
import { Box } from '../design/Box';
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { DataTable } from '../design/DataTable';
import { Loaded } from '../design/feedback';
import { PartMeter } from '../design/PartBar';
import { count, plural } from '../design/words';
import { CarryFills } from './CarryFills';
import { useCompared } from './compared';
import { FillEditor } from './FillEditor';
import { sayFillRule } from './sayFill';
import { SuggestedFills } from './SuggestedFills';

const fillsAddress = z.object({
  attribute: inAddress.text,
  market: inAddress.text,
  category: inAddress.text,
  preset: inAddress.number,
  within: inAddress.text,
  carry: z.enum(['place', 'file']).optional(),
});

const needs = { required: 'must be there', recommended: 'better there', optional: 'may be there' };
const inOrder = Object.keys(needs);

export function Fills({ placeId }: { placeId: number }) {
  const [address, set] = useAddress(fillsAddress);
  const { within, carry } = address;
  const fills = useQuery({
    ...ask(api.channels.fills, { params: { id: placeId }, query: within === undefined ? {} : { within } }),
    placeholderData: keepPreviousData,
  });
  return (
    <Loaded query={fills}>
      {({ items, categories }) => {
        const rows = [...items].sort((a, b) => inOrder.indexOf(a.need) - inOrder.indexOf(b.need));
        const chosen = rows.find((row) => row.key === address.attribute) ?? rows[0];
        const at = { market: address.market ?? '', category: address.category ?? '', preset: address.preset ?? null };
        return (
          <Box grow row align="stretch" gap={0} minHigh={0}>
            <Box scroll wide={400} fixed line="right" pad={[0, 0, 5, 6]}>
              <Box row align="end" gap={2} pad={[2, 3, 2, 0]}>
                <Autocomplete
                  options={categories}
                  getOptionLabel={({ names }) => names.at(-1) ?? ''}
                  getOptionKey={({ path }) => path}
                  isOptionEqualToValue={(a, b) => a.path === b.path}
                  value={categories.find(({ path }) => path === within) ?? null}
                  onChange={(_, category) => set({ within: category?.path })}
                  renderOption={({ key, ...props }, { names, goods }) => (
                    <li key={key} {...props} title={names.join(' / ')}>
                      {names.at(-1)}&nbsp;
                      <Box as="span" small muted>
                        {count(goods)}
                      </Box>
                    </li>
                  )}
                  renderInput={(params) => <TextField {...params} label="Counted in" placeholder="all categories" />}
                  sx={{ flex: 1 }}
                />
                <Button
                  variant="outlined"
                  color="inherit"
                  onClick={() => set({ carry: carry === undefined ? 'place' : undefined })}
                >
                  {carry === undefined ? 'Copy from elsewhere' : 'Back to the fills'}
                </Button>
              </Box>
              <SuggestedFills key={within} placeId={placeId} attributes={items} category={within} />
              <AttributeList
                rows={rows}
                chosen={carry === undefined ? chosen?.key : undefined}
                onChoose={({ key }) =>
                  set({ attribute: key, market: undefined, category: undefined, preset: undefined, carry: undefined })
                }
              />
            </Box>
            {carry !== undefined ? (
              <CarryFills placeId={placeId} way={carry} onWay={(way) => set({ carry: way })} />
            ) : (
              chosen && (
                <FillEditor
                  key={JSON.stringify([
                    chosen.key,
                    chosen.slots.map(({ market, category, preset }) => [market, category, preset]),
                    at,
                  ])}
                  placeId={placeId}
                  attribute={chosen}
                  at={at}
                  within={within}
                  onAt={({ market, category, preset }) =>
                    set({ market: market || undefined, category: category || undefined, preset: preset ?? undefined })
                  }
                />
              )
            )}
          </Box>
        );
      }}
    </Loaded>
  );
}

function AttributeList({
  rows,
  chosen,
  onChoose,
}: {
  rows: readonly ChannelAttributeAnswer[];
  chosen: string | undefined;
  onChoose: (row: ChannelAttributeAnswer) => void;
}) {
  const compared = useCompared().data ?? [];
  return (
    <DataTable
      label="Attributes of the channel"
      rows={rows}
      keyOf={({ key }) => key}
      chosen={chosen}
      onChoose={onChoose}
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
                {needs[row.need]} ·{' '}
                {row.fill ? (
                  sayFillRule(row.fill.rule, [...row.sources, ...compared])
                ) : (
                  <Box as="span" tone={row.need === 'required' ? 'blocked' : 'muted'}>
                    filled by nothing
                  </Box>
                )}
              </Box>
              {row.slots.length > 1 && (
                <Box small muted>
                  otherwise for {plural(row.slots.length - 1, 'kind')} of goods
                </Box>
              )}
              {row.covers && (
                <Box small tone="advice">
                  over goods with {count(row.covers.distinct)} of their own
                </Box>
              )}
            </>
          ),
        },
        {
          head: 'Filled',
          sortBy: ({ filled }) => filled,
          look: { num: true, wide: 120 },
          cell: ({ label, need, filled, refused, missing }) => {
            const isNeeded = need === 'required';
            return (
              <>
                <PartMeter
                  label={`${label} filled`}
                  taken={filled - refused}
                  wrong={refused + (isNeeded ? missing : 0)}
                  of={filled + missing}
                />
                <Box small>
                  {count(filled - refused)}
                  {refused + missing > 0 && (
                    <Box
                      as="span"
                      tone={refused > 0 || isNeeded ? 'blocked' : 'muted'}
                      strong={refused > 0 || isNeeded}
                    >
                      {' · '}
                      {refused > 0 && `${count(refused)} refused`}
                      {refused > 0 && missing > 0 && ', '}
                      {missing > 0 && `${count(missing)} empty`}
                    </Box>
                  )}
                </Box>
              </>
            );
          },
        },
      ]}
    />
  );
}
