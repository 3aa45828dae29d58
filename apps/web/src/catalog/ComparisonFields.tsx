/** One comparison: what is compared, how, and with what. */
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Option } from '@velvet-shelf/contract';
import type { Comparison } from '@velvet-shelf/core/conditions';

export const operators: [Comparison['op'], string][] = [
  ['is', 'is'],
  ['isNot', 'is not'],
  ['contains', 'contains'],
  ['under', 'is in'],
  ['atLeast', 'is at least'],
  ['atMost', 'is at most'],
  ['isEmpty', 'is empty'],
  ['isNotEmpty', 'is not empty'],
];

/** Whether it looks at nothing but that there is a value. */
export const isBare = ({ op }: Comparison) => op === 'isEmpty' || op === 'isNotEmpty';

export interface Comparable {
  key: string;
  label: string;
  type?: string;
  choices?: Option[] | null;
}

export function ComparisonFields({
  comparison,
  attributes,
  onChange,
}: {
  comparison: Comparison;
  attributes: readonly Comparable[];
  onChange: (comparison: Comparison) => void;
}) {
  const chosen = attributes.find((attribute) => attribute.key === comparison.attribute);
  const { value = '' } = comparison;
  const choices = comparison.op === 'contains' ? undefined : chosen?.choices;
  return (
    <>
      <TextField
        select
        label="Attribute"
        value={comparison.attribute}
        onChange={(event) => onChange({ ...comparison, attribute: event.target.value })}
        sx={{ minWidth: 120 }}
      >
        {!chosen && comparison.attribute !== '' && (
          <MenuItem value={comparison.attribute}>{comparison.attribute}</MenuItem>
        )}
        {attributes.map(({ key, label }) => (
          <MenuItem key={key} value={key}>
            {label}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="Comparison"
        value={comparison.op}
        onChange={(event) => onChange({ ...comparison, op: event.target.value as Comparison['op'] })}
        sx={{ minWidth: 110 }}
      >
        {operators.map(([op, words]) => (
          <MenuItem key={op} value={op}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {!isBare(comparison) && (
        <TextField
          select={Boolean(choices)}
          label="Value"
          value={value}
          placeholder={chosen?.type === 'measure' ? '12 cm' : undefined}
          onChange={(event) => onChange({ ...comparison, value: event.target.value })}
          sx={{ minWidth: 150 }}
        >
          {choices && value !== '' && !choices.some(({ key }) => key === value) && (
            <MenuItem value={value}>{value}</MenuItem>
          )}
          {choices?.map(({ key, name }) => (
            <MenuItem key={key} value={key}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      )}
    </>
  );
}
