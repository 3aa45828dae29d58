/** The conditions of a view as chips, and a small form to add one. */
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import MenuItem from '@mui/material/MenuItem';
import Popover from '@mui/material/Popover';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { Comparison } from '@velvet-shelf/core/conditions';
import { useState } from 'react';
import { call } from '../api/call';

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

export function ConditionBar({
  conditions,
  fixed,
  onChange,
}: {
  conditions: Comparison[];
  /** What narrows the goods besides. */
  fixed?: { label: string; onDelete: () => void } | undefined;
  onChange: (next: Comparison[]) => void;
}) {
  const attributes = useQuery({
    queryKey: ['attributes'],
    queryFn: () => call(api.catalog.attributes),
    staleTime: 300_000,
  });
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [draft, setDraft] = useState<Comparison>({ attribute: 'category', op: 'under', value: '' });
  const label = (key: string) => attributes.data?.items.find((one) => one.key === key)?.label ?? key;
  const chosen = attributes.data?.items.find((one) => one.key === draft.attribute);
  const bare = draft.op === 'isEmpty' || draft.op === 'isNotEmpty';
  return (
    <div className="row wrap" style={{ marginBottom: 9, gap: 6 }}>
      {fixed && <Chip size="small" color="primary" label={fixed.label} onDelete={fixed.onDelete} />}
      {conditions.map((one, i) => (
        <Chip
          key={i}
          size="small"
          label={`${label(one.attribute)} ${operators.find(([op]) => op === one.op)?.[1]} ${one.value ?? ''}`}
          onDelete={() => onChange(conditions.filter((_, n) => n !== i))}
        />
      ))}
      <Button color="secondary" sx={{ p: '2px 6px' }} onClick={(event) => setAnchor(event.currentTarget)}>
        + Condition
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <form
          className="row"
          style={{ padding: 14 }}
          onSubmit={(event) => {
            event.preventDefault();
            onChange([...conditions, bare ? { attribute: draft.attribute, op: draft.op } : draft]);
            setAnchor(null);
          }}
        >
          <Select
            value={draft.attribute}
            onChange={(event) => setDraft({ ...draft, attribute: event.target.value })}
            inputProps={{ 'aria-label': 'Attribute' }}
          >
            {attributes.data?.items.map((one) => (
              <MenuItem key={one.key} value={one.key}>
                {one.label}
              </MenuItem>
            ))}
          </Select>
          <Select
            value={draft.op}
            onChange={(event) => setDraft({ ...draft, op: event.target.value })}
            inputProps={{ 'aria-label': 'Comparison' }}
          >
            {operators.map(([op, words]) => (
              <MenuItem key={op} value={op}>
                {words}
              </MenuItem>
            ))}
          </Select>
          {!bare &&
            (chosen?.choices && draft.op !== 'contains' ? (
              <Select
                value={draft.value ?? ''}
                displayEmpty
                onChange={(event) => setDraft({ ...draft, value: event.target.value })}
                inputProps={{ 'aria-label': 'Value' }}
                sx={{ minWidth: 150 }}
              >
                {chosen.choices.map((one) => (
                  <MenuItem key={one} value={one}>
                    {one}
                  </MenuItem>
                ))}
              </Select>
            ) : (
              <TextField
                autoFocus
                value={draft.value ?? ''}
                placeholder={chosen?.type === 'measure' ? '12 cm' : 'value'}
                onChange={(event) => setDraft({ ...draft, value: event.target.value })}
                slotProps={{ htmlInput: { 'aria-label': 'Value' } }}
              />
            ))}
          <Button type="submit" variant="contained" disabled={!bare && !draft.value}>
            Add
          </Button>
        </form>
      </Popover>
    </div>
  );
}
