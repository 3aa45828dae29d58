import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type ChannelAttributeAnswer } from '@velvet-shelf/contract';

/** A value as the channel wants it: one of its closed list, or typed. */
export function ChannelValue({
  attribute,
  label,
  width,
  value,
  onChange,
}: {
  attribute: Pick<ChannelAttributeAnswer, 'values'>;
  label: string;
  width: number;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <TextField
      select={attribute.values !== null}
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      sx={{ width }}
    >
      {attribute.values?.map((value) => (
        <MenuItem key={value} value={value}>
          {value}
        </MenuItem>
      ))}
    </TextField>
  );
}
