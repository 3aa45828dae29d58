/** A family's variants on a rack: one axis down, the other across, what one looks at in each place, what is wrong below. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import type { ProductAnswer } from '@velvet-shelf/contract';
import type { RackHead } from '@velvet-shelf/core/catalog';
import { Link, useNavigate } from 'react-router';
import { useCompany } from '../../company/company';
import { Box } from '../../design/Box';
import { Rack, type RackPlace } from '../../design/Rack';
import { plural } from '../../design/words';
import { BulkBar } from '../BulkBar';
import { useChoosing } from '../choosing';
import { Siblings } from '../Siblings';
import { SiblingFaults } from '../SiblingFaults';
import { OptionsEditor } from './OptionsEditor';
import { Standing } from './Standing';
import { type ProductAddress, rackShows } from './address';
import { useRack } from './rack';

interface RackTabProps {
  family: ProductAnswer;
  address: ProductAddress;
  onSet: (change: Partial<ProductAddress>) => void;
}

export function RackTab({ family, address, onSet }: RackTabProps) {
  const standing = useRack(family, address);
  const { axes } = standing;
  const choose = (id: number) => onSet({ variant: id, level: 'variant' });
  if (address.options)
    return <OptionsEditor family={family} axes={axes} onDone={() => onSet({ options: undefined })} />;
  if (axes.length > 0)
    return <Shelf family={family} standing={standing} address={address} onSet={onSet} onChoose={choose} />;
  return (
    <>
      <Box row>
        <Box grow muted>
          Nothing tells its variants apart yet.
        </Box>
        <ChangeOptions onSet={onSet} />
      </Box>
      <Siblings product={family} onOpen={choose} />
    </>
  );
}

const ChangeOptions = ({ onSet }: Pick<RackTabProps, 'onSet'>) => (
  <Button color="secondary" onClick={() => onSet({ options: true })}>
    Change options
  </Button>
);

function Shelf({
  family,
  standing: { axes, down, across, further, rack, faults, missing },
  address,
  onSet,
  onChoose,
}: RackTabProps & { standing: ReturnType<typeof useRack>; onChoose: (id: number) => void }) {
  const [currency] = useCompany().currencies;
  const navigate = useNavigate();
  const choosing = useChoosing(`rack of ${family.id}`, undefined);
  const several = family.siblings.filter((sibling) => choosing.isChosen({ id: sibling.id, familyId: family.id }));
  const everyone = family.siblings.map(({ id }) => id);
  const choose = (key: string, { add, isMove }: { add: boolean; isMove?: boolean }) => {
    const id = Number(key);
    // Arrows go from place to place among several that are chosen.
    if (isMove && several.length > 0) return;
    if (!add) {
      choosing.none();
      onChoose(id);
      return;
    }
    // The one that is looked at is the first of several.
    const first = several.length === 0 && address.variant !== undefined && address.variant !== id;
    const isOn = several.some((sibling) => sibling.id === id);
    choosing.toggle(first ? [address.variant ?? id, id] : [id], !isOn);
  };
  const shown =
    several.length > 0 ? several.map(({ id }) => id) : address.variant === undefined ? [] : [address.variant];
  const nameOf = (id: number) => family.siblings.find((sibling) => sibling.id === id)?.sku ?? 'no SKU';
  const sayHead = (axis: string | undefined, head: RackHead) => (axis === undefined ? '' : (head ?? `no ${axis}`));
  const places = rack.cells.map((row, r) =>
    row.map((here, c): RackPlace => {
      const [first] = here;
      const name = [sayHead(down, rack.down[r]), sayHead(across, rack.across[c])].filter(Boolean).join(', ');
      if (!first) return { key: undefined, name: `${name}: not made`, content: <span>make it</span> };
      return {
        key: String(first.id),
        isFaded: first.isHidden,
        name: `${name}: ${first.sku ?? 'no SKU'}${first.isHidden ? ', hidden' : ''}`,
        content: <Standing sibling={first} others={here.length - 1} shows={address.shows} currency={currency} />,
      };
    }),
  );
  const make = (row: number, column: number) => {
    const here = new Map<string, RackHead>(further.map(({ key, at }) => [key, at]));
    here.set(down, rack.down[row]);
    if (across !== undefined) here.set(across, rack.across[column]);
    const values = JSON.stringify(axes.map(({ key }) => here.get(key) ?? ''));
    void navigate(`/catalog/new?family=${family.id}&make=${encodeURIComponent(values)}`);
  };
  return (
    <>
      <Box row wrap gap={2} below={2}>
        {across !== undefined && (
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => onSet({ down: across, across: down })}
            aria-label={`Turn the rack: ${across} down, ${down} across`}
          >
            {down} ↓ {rack.down.length} · {across} → {rack.across.length}
          </Button>
        )}
        {further.map(({ key, values, at }) => (
          <Select
            key={key}
            value={at}
            inputProps={{ 'aria-label': key }}
            renderValue={(value) => `${key}: ${value}`}
            onChange={({ target }) =>
              onSet({ at: [...address.at.filter(([axis]) => axis !== key), [key, target.value]] })
            }
          >
            {values.map((value) => (
              <MenuItem value={value} key={value}>
                {value}
              </MenuItem>
            ))}
          </Select>
        ))}
        <Button component={Link} to={`/catalog/new?family=${family.id}`} color="secondary">
          Paste values
        </Button>
        <ChangeOptions onSet={onSet} />
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
        label={`${down}${across === undefined ? '' : ` by ${across}`}`}
        down={rack.down.map((head) => sayHead(down, head))}
        across={rack.across.map((head) => sayHead(across, head))}
        places={places}
        chosen={new Set(shown.map(String))}
        onChoose={choose}
        onOpen={(key) => onChoose(Number(key))}
        onGap={make}
      />
      {choosing.chosen && (
        <Box above={3}>
          <BulkBar
            choosing={{ ...choosing, all: () => choosing.toggle(everyone, true) }}
            chosen={choosing.chosen}
            rows={undefined}
            all="the family"
            onDone={choosing.none}
          />
        </Box>
      )}
      <SiblingFaults axes={axes} faults={faults} nameOf={nameOf} />
      {missing > 0 && (
        <Box small muted above={2}>
          {plural(missing, 'combination')} not made
        </Box>
      )}
    </>
  );
}
