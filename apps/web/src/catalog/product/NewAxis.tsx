/** An option more: what the variants there are have on it, one value for all or what an attribute of each says. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ProductAnswer } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Box } from '../../design/Box';
import { plural } from '../../design/words';

/** What is said of one variant. */
export interface SaidValue {
  variant: number;
  axis: string;
  value: string;
}

/** Chosen where one value is typed for all. */
const typed = '';

export function NewAxis({
  family: { siblings },
  taken,
  added,
  onAdd,
}: {
  family: ProductAnswer;
  /** Names of its options. */
  taken: readonly string[];
  added: readonly SaidValue[];
  onAdd: (values: readonly SaidValue[]) => void;
}) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [from, setFrom] = useState(typed);
  const [value, setValue] = useState('');
  const attributes = telling(siblings);
  const say = (axis: string, attribute: string, text: string) => {
    const said = siblings.flatMap(({ id, differs }): SaidValue[] => {
      const own =
        attribute === typed ? text.trim() : (differs.find((each) => each.attribute === attribute)?.shown ?? '');
      return own === '' || axis.trim() === '' ? [] : [{ variant: id, axis: axis.trim(), value: own }];
    });
    onAdd(said);
  };
  const isTaken = taken.some((each) => each.trim().toLowerCase() === name.trim().toLowerCase());
  if (!open)
    return (
      <Box>
        <Button variant="outlined" onClick={() => setOpen(true)}>
          Add an option
        </Button>
      </Box>
    );
  return (
    <Box surface="card" framed pad={[3, 3]}>
      <Box row gap={3} align="start">
        <TextField
          label="New option"
          autoFocus
          value={name}
          error={isTaken}
          helperText={isTaken ? 'It has an option of that name' : undefined}
          onChange={({ target }) => {
            setName(target.value);
            say(target.value, from, value);
          }}
          sx={{ width: 170 }}
        />
        <TextField
          select
          label="Its variants have"
          value={from}
          onChange={({ target }) => {
            setFrom(target.value);
            const label = attributes.find(({ attribute }) => attribute === target.value)?.label ?? '';
            const named = name.trim() === '' ? label : name;
            setName(named);
            say(named, target.value, value);
          }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          sx={{ width: 170 }}
        >
          <MenuItem value={typed}>one value</MenuItem>
          {attributes.map(({ attribute, label }) => (
            <MenuItem value={attribute} key={attribute}>
              what {label} says
            </MenuItem>
          ))}
        </TextField>
        {from === typed && (
          <TextField
            label="Value of all"
            value={value}
            onChange={({ target }) => {
              setValue(target.value);
              say(name, from, target.value);
            }}
            sx={{ width: 130 }}
          />
        )}
      </Box>
      <Box row above={1}>
        <Box small muted grow>
          {added.length > 0
            ? `${plural(added.length, 'variant')} keep SKU, GTIN, stock and links, and have it: ${[...new Set(added.map((each) => each.value))].slice(0, 5).join(', ')}. Paste further values once it is saved.`
            : 'Say what the variants there are have on it; further values are pasted once it is saved.'}
        </Box>
        <Button
          color="inherit"
          onClick={() => {
            setOpen(false);
            setName('');
            onAdd([]);
          }}
        >
          Cancel
        </Button>
      </Box>
    </Box>
  );
}

/** Attributes of which every variant has a value and not all the same: they may tell variants apart. */
function telling(siblings: ProductAnswer['siblings']): { attribute: string; label: string }[] {
  const found = new Map<string, { label: string; holders: number }>();
  for (const { differs } of siblings)
    for (const { attribute, label, shown } of differs)
      if (shown !== null) found.set(attribute, { label, holders: (found.get(attribute)?.holders ?? 0) + 1 });
  return [...found].flatMap(([attribute, { label, holders }]) =>
    holders === siblings.length ? { attribute, label } : [],
  );
}
