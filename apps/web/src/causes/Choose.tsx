/** Fixes that are a choice: a category, a value of a closed list, or where a value comes from. */
import { Box } from '../design/Box';
import { Meter } from '../design/Meter';
import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CauseDetail, Fix } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { fillAddress } from '../channels/fillAt';

type Remedy<K extends CauseDetail['remedy']['kind']> = Extract<CauseDetail['remedy'], { kind: K }>;

export function ChooseOption({
  remedy,
  value,
  onChoose,
}: {
  remedy: Remedy<'choose'>;
  value: string | undefined;
  onChoose: (value: string) => void;
}) {
  const other =
    remedy.options.find((option) => option.value === value && !remedy.suggested.some((each) => each.value === value)) ??
    null;
  return (
    <div role="radiogroup" aria-label={remedy.question}>
      {remedy.suggested.map((row) => {
        const names = row.label.split(' / ');
        return (
          <label key={row.value} className="choice">
            <input type="radio" name="choice" checked={value === row.value} onChange={() => onChoose(row.value)} />
            <Box as="span" grow>
              <Box as="span" muted>
                {names.slice(0, -1).map((name) => `${name} / `)}
              </Box>
              <b>{names.at(-1)}</b>
              <Box as="span" small muted block>
                {row.evidence.join(' · ')}
              </Box>
            </Box>
            <Box as="span" muted small row>
              <Meter percent={row.score ?? 0} label="Likeness" wide={64} />
              {row.score}
            </Box>
          </label>
        );
      })}
      {remedy.suggested.length === 0 && (
        <Box as="p" muted>
          Nothing on the channel’s list looks like it; choose by hand.
        </Box>
      )}
      <Autocomplete
        size="small"
        options={remedy.options}
        value={other}
        getOptionLabel={(row) => row.label}
        isOptionEqualToValue={(a, b) => a.value === b.value}
        onChange={(_, row) => row && onChoose(row.value)}
        renderInput={(params) => <TextField {...params} label="Another one of the whole list" />}
      />
      {remedy.field && (
        <Box as="p" small above={2}>
          <Link to={fillAddress(remedy.placeId, remedy.field)}>All words of {remedy.field.label} that wait</Link>, with
          what each may be.
        </Box>
      )}
    </div>
  );
}

export function ChooseFill({ remedy, onChoose }: { remedy: Remedy<'fill'>; onChoose: (fix: Fix) => void }) {
  return (
    <Box row gap={3.5} align="start">
      <Autocomplete
        size="small"
        sx={{ width: 260 }}
        options={remedy.sources}
        getOptionLabel={(row) => row.label}
        onChange={(_, row) => row && onChoose({ kind: 'fill', source: row.name })}
        renderInput={(params) => <TextField {...params} label={`Copy ${remedy.label} from`} />}
      />
      <Box as="span" muted padTop={2}>
        or
      </Box>
      {remedy.values ? (
        <TextField
          select
          label="One fixed value for all"
          defaultValue=""
          sx={{ width: 220 }}
          onChange={(event) => onChoose({ kind: 'fill', fixed: event.target.value })}
        >
          {remedy.values.map((value) => (
            <MenuItem key={value} value={value}>
              {value}
            </MenuItem>
          ))}
        </TextField>
      ) : (
        <TextField
          label="One fixed value for all"
          onChange={(event) => event.target.value && onChoose({ kind: 'fill', fixed: event.target.value })}
        />
      )}
    </Box>
  );
}
