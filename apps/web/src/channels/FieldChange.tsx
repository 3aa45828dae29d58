/** The small things of one field of a rulebook, said anew: its need, its limits, its closed list. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { AskedFieldAnswer } from '@velvet-shelf/contract';
import { type AttributeChange, type NumberLimit, numberLimits } from '@velvet-shelf/core/rulebooks';
import { useState } from 'react';
import { Box } from '../design/Box';
import { count, plural } from '../design/words';

type Said = Omit<AttributeChange, 'attribute' | 'in'>;

const limitWords: Record<NumberLimit, string> = {
  minLength: 'Least characters',
  maxLength: 'Most characters',
  maxBytes: 'Most bytes',
  min: 'Least',
  max: 'Most',
  minCount: 'Least of them',
  maxCount: 'Most of them',
  minWidth: 'Least width, pixels',
  minHeight: 'Least height, pixels',
};
const needs = ['required', 'recommended', 'optional'] as const;

/** What is said anew, in words. */
export function sayChange(field: AskedFieldAnswer, { need, limits = {}, values }: Said): string {
  const parts = numberLimits.flatMap((limit) =>
    limits[limit] === undefined
      ? []
      : [`${limitWords[limit].toLowerCase()} ${limits[limit] === null ? 'not any more' : count(limits[limit])}`],
  );
  const [more, fewer] = [without(values, field.values), without(field.values, values)];
  return [
    ...(need === undefined ? [] : [need]),
    ...parts,
    ...(values && more.length > 0 ? [`also ${few(more)}`] : []),
    ...(values && fewer.length > 0 ? [`not ${few(fewer)}`] : []),
  ].join(', ');
}

const without = (list: readonly string[] | null | undefined, but: readonly string[] | null | undefined): string[] => {
  const known = new Set(but);
  return (list ?? []).filter((value) => !known.has(value));
};
const few = (list: readonly string[]): string =>
  list.length > 3 ? `${list.slice(0, 3).join(', ')} and ${count(list.length - 3)} more` : list.join(', ');

const linesOf = (text: string): string[] => text.split('\n').flatMap((line) => line.trim() || []);

export function FieldChange({
  field,
  where,
  onKeep,
  onLeave,
}: {
  field: AskedFieldAnswer;
  /** The category it is said for; null for all. */
  where: string | null;
  onKeep: (said: Said) => void;
  onLeave: () => void;
}) {
  const [need, setNeed] = useState(field.need);
  const shown = numberLimits.filter((limit) => field.limits[limit] !== undefined);
  const textOf = (limit: NumberLimit) => String(field.limits[limit] ?? '');
  const [limits, setLimits] = useState(() => Object.fromEntries(shown.map((limit) => [limit, textOf(limit)])));
  const [list, setList] = useState((field.values ?? []).join('\n'));
  const faultOf = (text = '') => (text.trim() !== '' && !Number.isFinite(Number(text)) ? 'No number' : undefined);
  const values = linesOf(list);
  const isListChanged = field.values !== null && list !== field.values.join('\n');
  const said: Said = {
    ...(need === field.need ? {} : { need }),
    ...saidLimits(),
    ...(isListChanged ? { values } : {}),
  };
  const isFaulty = shown.some((limit) => faultOf(limits[limit])) || (isListChanged && values.length === 0);

  function saidLimits(): Pick<Said, 'limits'> {
    const changed = shown.filter((limit) => (limits[limit] ?? '').trim() !== textOf(limit));
    if (changed.length === 0) return {};
    const read = (text = '') => (text.trim() === '' ? null : Number(text));
    return { limits: Object.fromEntries(changed.map((limit) => [limit, read(limits[limit])])) };
  }

  return (
    <Box col gap={2} pad={[2, 0]} onKeyDown={(event) => event.key === 'Escape' && onLeave()}>
      <Box small muted>
        {where === null ? 'Said for all categories.' : `Said for ${where} and all below it.`}
      </Box>
      <Box row wrap align="start">
        <TextField
          select
          label="Need"
          value={need}
          onChange={({ target }) => setNeed(needs.find((each) => each === target.value) ?? field.need)}
          sx={{ width: 150 }}
        >
          {needs.map((each) => (
            <MenuItem key={each} value={each}>
              {each}
            </MenuItem>
          ))}
        </TextField>
        {shown.map((limit) => (
          <TextField
            key={limit}
            label={limitWords[limit]}
            value={limits[limit] ?? ''}
            error={faultOf(limits[limit]) !== undefined}
            helperText={faultOf(limits[limit])}
            onChange={({ target }) => setLimits({ ...limits, [limit]: target.value })}
            sx={{ width: 140 }}
          />
        ))}
      </Box>
      {field.values !== null && (
        <TextField
          multiline
          maxRows={8}
          label="Values it takes, one a line"
          value={list}
          helperText={plural(values.length, 'value')}
          onChange={({ target }) => setList(target.value)}
        />
      )}
      <Box row>
        <Button variant="outlined" disabled={isFaulty || Object.keys(said).length === 0} onClick={() => onKeep(said)}>
          Note the change
        </Button>
        <Button color="inherit" onClick={onLeave}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
