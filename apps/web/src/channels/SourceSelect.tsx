/** Something of the goods that a rule reads, chosen of what the channel attribute can be filled from. */
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';

export function SourceSelect({
  attribute,
  value,
  onChange,
  label,
  of = attribute.sources,
}: {
  attribute: Pick<ChannelAttributeAnswer, 'sources'>;
  value: string;
  onChange: (name: string) => void;
  label: string;
  of?: ChannelAttributeAnswer['sources'];
}) {
  return (
    <TextField
      select
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      sx={{ width: 190 }}
    >
      {of.map((source) => (
        <MenuItem key={source.name} value={source.name}>
          {source.label}
        </MenuItem>
      ))}
    </TextField>
  );
}
