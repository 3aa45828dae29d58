/** A supplier's words and ours: closed lists to fill, and what goods that both sides describe say a word is. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import type { ColumnTarget } from '@velvet-shelf/core/intake';
import { useState } from 'react';
import { call } from '../api/call';
import { ProblemBox } from '../design/feedback';
import { type List, asValues, untaken, untakenWords } from './untaken';
import { batchWork } from './work';

/** Chosen where a word is to come onto the list. */
const newOne = '\u0001new';

/** Words of an open list shown before one asks for more. */
const shownAtFirst = 7;

export function Translations({
  batch,
  off,
  onSet,
  onMap,
  onChange,
}: {
  batch: BatchAnswer;
  off: boolean;
  onSet: (index: number, target: ColumnTarget) => void;
  onMap: (map: BatchAnswer['map']) => void;
  onChange: (batch: BatchAnswer) => void;
}) {
  if (batch.translations.length === 0) return null;
  const { told, count, map } = untakenWords(batch);
  return (
    <Box below={3.5} framed pad={[2.5, 3.5]} surface="card">
      <Box row gap={3}>
        <h3>Their words and ours</h3>
        {told.length > 1 && !off && (
          <Button size="small" variant="outlined" onClick={() => onMap(map)}>
            Take all {count} words that our own goods tell
          </Button>
        )}
      </Box>
      {batch.translations.map((list) => (
        <Words
          key={`${list.column} ${list.attribute}`}
          batch={batch}
          list={list}
          off={off}
          onSet={onSet}
          onChange={onChange}
        />
      ))}
    </Box>
  );
}

function Words({
  batch,
  list,
  off,
  onSet,
  onChange,
}: {
  batch: BatchAnswer;
  list: List;
  off: boolean;
  onSet: (index: number, target: ColumnTarget) => void;
  onChange: (batch: BatchAnswer) => void;
}) {
  const [all, setAll] = useState(false);
  const make = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: (cells: string[]) =>
      call(api.intake.make, { params: { id: batch.id }, body: { values: [{ attribute: list.attribute, cells }] } }),
    onSuccess: onChange,
  });
  const index = batch.map.findIndex(
    ({ column, target }) => column === list.column && target.to === 'attribute' && target.attribute === list.attribute,
  );
  const target = batch.map[index]?.target;
  if (target?.to !== 'attribute') return null;
  const set = (words: Record<string, string>) => onSet(index, { ...target, values: { ...target.values, ...words } });
  const open = untaken(list);
  const lacking = list.choices ? list.values.flatMap(({ value, becomes }) => (becomes === null ? [value] : [])) : [];
  const shown = list.choices || all ? list.values.slice(0, 40) : list.values.slice(0, shownAtFirst);
  return (
    <Box above={2}>
      <Box row gap={2.5}>
        <Box as="b" small>
          {list.column} → {list.label}
        </Box>
        {open.length > 0 && !off && (
          <Button size="small" color="secondary" sx={{ p: 0 }} onClick={() => set(asValues(open))}>
            Take all {open.length} that our own goods tell
          </Button>
        )}
      </Box>
      {lacking.length > 0 && !off && (
        <Button
          size="small"
          variant="outlined"
          sx={{ mt: 0.5 }}
          disabled={make.isPending}
          onClick={() => make.mutate(lacking)}
        >
          {lacking.length === 1 ? `Put “${lacking[0]}” on the list` : `Put all ${lacking.length} on the list`}
        </Button>
      )}
      {make.error && <ProblemBox error={make.error} />}
      <Box wrap row above={1} gap={[1.5, 4]}>
        {shown.map((row) => (
          <Box as="span" small row gap={1.5} key={row.value}>
            <Box as="span" tone={row.becomes === null && list.choices ? 'blocked' : 'inherit'}>
              {row.value} ({row.rows})
            </Box>
            →
            {list.choices ? (
              <Select
                value={row.becomes ?? ''}
                displayEmpty
                disabled={off}
                sx={{ '& .MuiSelect-select': { py: 0.3 } }}
                inputProps={{ 'aria-label': `${list.column} ${row.value} becomes` }}
                onChange={(event) =>
                  event.target.value === newOne ? make.mutate([row.value]) : set({ [row.value]: event.target.value })
                }
              >
                <MenuItem value="">
                  <i>nothing yet</i>
                </MenuItem>
                {row.becomes === null && <MenuItem value={newOne}>new: {row.value}</MenuItem>}
                {list.choices.map(({ key, name }) => (
                  <MenuItem key={key} value={key}>
                    {name}
                  </MenuItem>
                ))}
              </Select>
            ) : (
              <TextField
                key={row.becomes ?? ''}
                defaultValue={row.becomes ?? ''}
                placeholder="as it is"
                disabled={off}
                sx={{ width: 112, '& input': { py: 0.4 } }}
                slotProps={{ htmlInput: { 'aria-label': `${list.column} ${row.value} becomes` } }}
                onBlur={(event) =>
                  event.target.value.trim() !== (row.becomes ?? '') &&
                  set({ [row.value]: event.target.value.trim() || row.value })
                }
              />
            )}
            {row.learnt && (
              <button
                type="button"
                className="said"
                disabled={off}
                title={`${row.learnt.agree} of ${row.learnt.seen} goods that both sides describe`}
                onClick={() => set({ [row.value]: row.learnt?.ours ?? '' })}
              >
                {list.choices?.find(({ key }) => key === row.learnt?.ours)?.name ?? row.learnt.ours} {row.learnt.agree}/
                {row.learnt.seen}
              </button>
            )}
          </Box>
        ))}
        {shown.length < list.values.length && (
          <Button size="small" color="secondary" sx={{ p: 0 }} onClick={() => setAll(true)}>
            {list.values.length - shown.length} more words
          </Button>
        )}
      </Box>
    </Box>
  );
}
