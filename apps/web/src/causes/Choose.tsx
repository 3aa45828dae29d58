/** Fixes that are a choice: a category, a value of a closed list, or where a value comes from. */
import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CauseDetail, Fix } from '@velvet-shelf/contract';

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
    remedy.options.find((one) => one.value === value && !remedy.suggested.some((each) => each.value === value)) ?? null;
  return (
    <div role="radiogroup" aria-label={remedy.question}>
      {remedy.suggested.map((one) => {
        const names = one.label.split(' / ');
        return (
          <label key={one.value} className="choice">
            <input type="radio" name="choice" checked={value === one.value} onChange={() => onChoose(one.value)} />
            <span className="grow">
              <span className="muted">{names.slice(0, -1).map((name) => `${name} / `)}</span>
              <b>{names.at(-1)}</b>
              <span className="muted small" style={{ display: 'block' }}>
                {one.evidence.join(' · ')}
              </span>
            </span>
            <span className="row small muted">
              <span className="bar" style={{ width: 64 }}>
                <i style={{ width: `${one.score ?? 0}%` }} />
              </span>
              {one.score}
            </span>
          </label>
        );
      })}
      {remedy.suggested.length === 0 && (
        <p className="muted">Nothing on the channel’s list looks like it; choose by hand.</p>
      )}
      <Autocomplete
        size="small"
        options={remedy.options}
        value={other}
        getOptionLabel={(one) => one.label}
        isOptionEqualToValue={(a, b) => a.value === b.value}
        onChange={(_, one) => one && onChoose(one.value)}
        renderInput={(params) => <TextField {...params} label="Another one of the whole list" />}
      />
    </div>
  );
}

export function ChooseFill({ remedy, onChoose }: { remedy: Remedy<'fill'>; onChoose: (fix: Fix) => void }) {
  return (
    <div className="row" style={{ gap: 14, alignItems: 'flex-start' }}>
      <Autocomplete
        size="small"
        sx={{ width: 260 }}
        options={remedy.sources}
        getOptionLabel={(one) => one.label}
        onChange={(_, one) => one && onChoose({ kind: 'fill', source: one.name })}
        renderInput={(params) => <TextField {...params} label={`Copy ${remedy.label} from`} />}
      />
      <span className="muted" style={{ paddingTop: 8 }}>
        or
      </span>
      {remedy.values ? (
        <TextField
          select
          label="One fixed value for all"
          defaultValue=""
          sx={{ width: 220 }}
          onChange={(event) => onChoose({ kind: 'fill', fixed: event.target.value })}
        >
          {remedy.values.map((one) => (
            <MenuItem key={one} value={one}>
              {one}
            </MenuItem>
          ))}
        </TextField>
      ) : (
        <TextField
          label="One fixed value for all"
          onChange={(event) => event.target.value && onChoose({ kind: 'fill', fixed: event.target.value })}
        />
      )}
    </div>
  );
}
