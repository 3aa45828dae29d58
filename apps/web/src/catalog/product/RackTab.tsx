/** A family's variants on a rack: one axis down, the other across, what one looks at in each place, what is wrong below. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import type { ProductAnswer, Sibling } from '@velvet-shelf/contract';
import {
  type RackHead,
  axesOf,
  missingCombinations,
  rackOf,
  siblingFaults,
  usedAxes,
} from '@velvet-shelf/core/catalog';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useCompany } from '../../company/company';
import { Box } from '../../design/Box';
import { Rack, type RackPlace } from '../../design/Rack';
import { State } from '../../design/State';
import { Thumb } from '../../design/Thumb';
import { count, money, plural } from '../../design/words';
import { Siblings } from '../Siblings';
import { SiblingFaults } from '../SiblingFaults';
import { statesOf } from '../listed';
import { type ProductAddress, type RackShows, rackShows, useAt } from './address';

interface RackTabProps {
  family: ProductAnswer;
  address: ProductAddress;
  onSet: (change: Partial<ProductAddress>) => void;
}

type Shelved = Omit<Sibling, 'options'> & { options: Record<string, string> };

export function RackTab({ family, address, onSet }: RackTabProps) {
  const [language] = useCompany().languages;
  const [currency] = useCompany().currencies;
  const navigate = useNavigate();
  const at = useAt(address.at);
  const { down, across } = address;
  const { siblings, values } = family;
  const { axes, variants, faults, missing } = useMemo(() => {
    const all: Shelved[] = siblings.map(({ options, ...rest }) => ({ ...rest, options: Object.fromEntries(options) }));
    const of = axesOf(all, values);
    return {
      axes: usedAxes(of, all, { language }),
      variants: all,
      faults: siblingFaults(of, all),
      missing: missingCombinations(of, all, { most: 1 }).count,
    };
  }, [siblings, values, language]);
  const keys = axes.map(({ key }) => key);
  // The axis with fewer values stands across, where nobody has said which.
  const byCount = [...axes].sort((a, b) => a.values.length - b.values.length).map(({ key }) => key);
  const columnAxis = keys.includes(across ?? '') ? across : axes.length > 1 ? byCount[0] : undefined;
  const rowAxis =
    (keys.includes(down ?? '') && down !== columnAxis ? down : keys.find((key) => key !== columnAxis)) ?? '';
  const further = axes.filter(({ key }) => key !== rowAxis && key !== columnAxis);
  const looked = useMemo(
    () => Object.fromEntries(further.map(({ key, values: of }) => [key, at[key] ?? of[0] ?? ''])),
    // The further axes follow from these.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [axes, rowAxis, columnAxis, at],
  );
  const rack = useMemo(
    () => rackOf(axes, variants, { down: rowAxis, across: columnAxis, at: looked, language }),
    [axes, variants, rowAxis, columnAxis, looked, language],
  );
  const nameOf = (id: number) => siblings.find((sibling) => sibling.id === id)?.sku ?? 'no SKU';
  const open = (key: string) => onSet({ variant: Number(key), level: 'variant' });
  if (axes.length === 0) return <Siblings product={family} onOpen={(id) => onSet({ variant: id, level: 'variant' })} />;
  const sayHead = (axis: string | undefined, head: RackHead) => (axis === undefined ? '' : (head ?? `no ${axis}`));
  const places = rack.cells.map((row, r) =>
    row.map((here, c): RackPlace => {
      const [first] = here;
      const name = [sayHead(rowAxis, rack.down[r]), sayHead(columnAxis, rack.across[c])].filter(Boolean).join(', ');
      if (!first) return { key: undefined, name: `${name}: not made`, content: <span>make it</span> };
      return {
        key: String(first.id),
        name: `${name}: ${first.sku ?? 'no SKU'}`,
        content: <Standing sibling={first} others={here.length - 1} shows={address.shows} currency={currency} />,
      };
    }),
  );
  return (
    <>
      <Box row wrap gap={2} below={2}>
        {axes.length > 1 && (
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => onSet({ down: columnAxis, across: rowAxis })}
            aria-label={`Turn the rack: ${columnAxis} down, ${rowAxis} across`}
          >
            {rowAxis} ↓ {rack.down.length} · {columnAxis} → {rack.across.length}
          </Button>
        )}
        {further.map(({ key, values: of }) => (
          <Select
            key={key}
            value={looked[key] ?? ''}
            inputProps={{ 'aria-label': key }}
            renderValue={(value) => `${key}: ${value}`}
            onChange={({ target }) =>
              onSet({ at: [...address.at.filter(([axis]) => axis !== key), [key, target.value]] })
            }
          >
            {of.map((value) => (
              <MenuItem value={value} key={value}>
                {value}
              </MenuItem>
            ))}
          </Select>
        ))}
        <Button component={Link} to={`/catalog/new?family=${family.id}`} color="secondary">
          Paste values
        </Button>
        <Box as="span" grow />
        <Select
          value={address.shows}
          inputProps={{ 'aria-label': 'What each place shows' }}
          onChange={({ target }) => onSet({ shows: target.value })}
        >
          {rackShows.map((each) => (
            <MenuItem value={each} key={each}>
              {each}
            </MenuItem>
          ))}
        </Select>
      </Box>
      <Rack
        label={`${rowAxis}${columnAxis === undefined ? '' : ` by ${columnAxis}`}`}
        down={rack.down.map((head) => sayHead(rowAxis, head))}
        across={rack.across.map((head) => sayHead(columnAxis, head))}
        places={places}
        chosen={new Set(address.variant === undefined ? [] : [String(address.variant)])}
        onChoose={(key) => onSet({ variant: Number(key), level: 'variant' })}
        onOpen={open}
        onGap={(row, column) => {
          const here: Record<string, string | undefined> = { ...looked, [rowAxis]: rack.down[row] };
          if (columnAxis !== undefined) here[columnAxis] = rack.across[column];
          const values = JSON.stringify(axes.map(({ key }) => here[key] ?? ''));
          void navigate(`/catalog/new?family=${family.id}&make=${encodeURIComponent(values)}`);
        }}
      />
      <SiblingFaults axes={axes} faults={faults} nameOf={nameOf} />
      {missing > 0 && (
        <Box small muted above={2}>
          {plural(missing, 'combination')} not made
        </Box>
      )}
    </>
  );
}

/** What stands in a place. */
function Standing({
  sibling: { price, stock, picture, places, differs },
  others,
  shows,
  currency,
}: {
  sibling: Shelved;
  /** Of the same combination. */
  others: number;
  shows: RackShows;
  currency: string | undefined;
}) {
  const [worst] = statesOf(places);
  const more = others > 0 && <Box tone="advice">and {plural(others, 'more')}</Box>;
  switch (shows) {
    case 'picture':
      return (
        <>
          <Thumb name={picture} size={36} /> {more}
        </>
      );
    case 'listing state':
      return (
        <>
          {statesOf(places)
            .slice(0, 2)
            .map(([state, listings]) => (
              <Box key={state}>
                <State is={state}>
                  {listings} {state === 'not for this channel' ? 'not here' : state}
                </State>
              </Box>
            ))}
          {more}
        </>
      );
    case 'what differs':
      return (
        <>
          {differs.slice(0, 2).map(({ attribute, label, shown }) => (
            <Box cut key={attribute} title={`${label}: ${shown}`}>
              {shown}
            </Box>
          ))}
          {differs.length === 0 && <Box muted>as its siblings</Box>}
          {more}
        </>
      );
    case 'price and stock':
      return (
        <>
          <Box row>
            <Box as="b" grow>
              {price === null ? 'no price' : money(price, currency)}
            </Box>
            <Box as="span" tone={stock <= 0 ? 'blocked' : 'muted'}>
              {count(stock)}
            </Box>
          </Box>
          {more || (
            <State is={worst?.[0] ?? 'none'}>
              {worst === undefined ? 'nowhere' : worst[0] === 'not for this channel' ? 'not here' : worst[0]}
            </State>
          )}
        </>
      );
  }
}
