/** A category of the channel's, chosen by its name. */
import Autocomplete, { createFilterOptions } from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';

interface Option {
  path: string;
  names: string[];
}

/** Found by all of its names, of which the field has room for the last two. */
const filter = createFilterOptions<Option>({ stringify: ({ names }) => names.join(' / ') });

export function CategoryPick({
  label,
  isShown = false,
  options,
  value,
  placeholder = 'not mapped',
  width,
  disabled,
  onPick,
}: {
  label: string;
  /** The label stands at the field; else it is read out only. */
  isShown?: boolean;
  options: readonly Option[];
  value: Option | null;
  placeholder?: string;
  width?: number;
  disabled?: boolean;
  onPick: (path: string | null) => void;
}) {
  return (
    <Autocomplete
      size="small"
      sx={width === undefined ? {} : { width }}
      options={options}
      value={value}
      disabled={disabled ?? false}
      getOptionLabel={({ names }) => names.slice(-2).join(' / ')}
      filterOptions={filter}
      renderOption={({ key, ...props }, { names }) => (
        <li key={key} {...props}>
          {names.join(' / ')}
        </li>
      )}
      getOptionKey={({ path }) => path}
      isOptionEqualToValue={(a, b) => a.path === b.path}
      onChange={(_, option) => onPick(option?.path ?? null)}
      renderInput={(params) => (
        <TextField
          {...params}
          label={isShown ? label : undefined}
          placeholder={placeholder}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps?.htmlInput, ...(isShown ? {} : { 'aria-label': label }) },
          }}
        />
      )}
    />
  );
}
