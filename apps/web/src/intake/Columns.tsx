/** What a file's columns become: suggested with a reason and a score, corrected here, several to one or one to several. */
import { Box } from '../design/Box';
import CloseIcon from '@mui/icons-material/Close';
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import type { ColumnTarget } from '@velvet-shelf/core/intake';
import { useState } from 'react';
import { call } from '../api/call';
import { ProblemBox } from '../design/feedback';
import { useCompany } from '../session/company';
import { type Correction, ReadingSettings } from './Reading';
import { signOf } from './notes';
import { type Choice, choicesFor, ignored, sameTarget, sayReading } from './targets';
import { Translations } from './Translations';

export function Columns({
  batch,
  canEdit,
  onChange,
}: {
  batch: BatchAnswer;
  canEdit: boolean;
  onChange: (batch: BatchAnswer) => void;
}) {
  const attributes = useQuery({
    queryKey: ['attributes'],
    queryFn: () => call(api.catalog.attributes),
    staleTime: 300_000,
  });
  const correct = useMutation({
    mutationFn: (body: Correction) => call(api.intake.reading, { params: { id: batch.id }, body }),
    onSuccess: onChange,
  });
  const off = !canEdit || correct.isPending;
  const isExchange = batch.kind === 'round-trip';
  const choices = choicesFor(attributes.data?.items ?? [], useCompany());
  const put = (index: number, target: ColumnTarget) =>
    correct.mutate({ map: batch.map.map((row, i) => (i === index ? { ...row, target } : row)) });
  return (
    <Box scroll grow pad={[2.5, 6, 6]}>
      {correct.error && <ProblemBox error={correct.error} />}
      <ReadingSettings batch={batch} off={off} onCorrect={(change) => correct.mutate(change)} />
      {isExchange ? (
        <Exchange batch={batch} off={off} onCorrect={(change) => correct.mutate(change)} />
      ) : (
        <>
          <Translations batch={batch} off={off} onSet={put} onMap={(map) => correct.mutate({ map })} />
          <Box as="table" surface="card" className="plain">
            <thead>
              <tr>
                <th>Column</th>
                <Box as="th" wide={290}>
                  Becomes
                </Box>
                <th>Because</th>
                <th>First rows, and what they become</th>
              </tr>
            </thead>
            <tbody>
              {batch.columns.map((column, at) => (
                <ColumnRow
                  key={column}
                  batch={batch}
                  column={column}
                  at={at}
                  choices={choices}
                  off={off}
                  onMap={(map) => correct.mutate({ map })}
                />
              ))}
            </tbody>
          </Box>
        </>
      )}
    </Box>
  );
}

/** Our own export needs no matching: its columns say what they are. */
function Exchange({
  batch,
  off,
  onCorrect,
}: {
  batch: BatchAnswer;
  off: boolean;
  onCorrect: (change: Correction) => void;
}) {
  return (
    <Box maxWide={720}>
      <h3>Your own grid, brought back</h3>
      <p>
        Its columns are known by their names. A cell you changed becomes your edit; a cell you emptied is empty on
        purpose; a column you took out changes nothing. Rows without a <code>shelf-id</code> are new goods. Sources and
        article numbers are told, and not read back: they follow from the sources’ own files.
      </p>
      <Box as="label" row gap={2}>
        <input
          type="checkbox"
          checked={batch.makesNew}
          disabled={off}
          onChange={(event) => onCorrect({ makesNew: event.target.checked })}
        />
        Make new products of rows without a shelf-id
      </Box>
      <Box as="p" small muted>
        {batch.columns.length} columns: {batch.columns.join(', ')}
      </Box>
    </Box>
  );
}

function ColumnRow({
  batch,
  column,
  at,
  choices,
  off,
  onMap,
}: {
  batch: BatchAnswer;
  column: string;
  at: number;
  choices: Choice[];
  off: boolean;
  onMap: (map: BatchAnswer['map']) => void;
}) {
  const entries = batch.map.flatMap((row, i) => (row.column === column ? [{ ...row, i }] : []));
  const listed = entries.length > 0 ? entries : [{ column, target: { to: 'ignore' } as ColumnTarget, i: -1 }];
  const suggestions = batch.suggestions.filter((suggestion) => suggestion.column === column);
  const [best] = suggestions;
  // Without an article number no row can be read, and still they show what the columns hold.
  const isNoneRead = batch.sample.every((row) => row.refused.length > 0);
  const own = listed.some(({ target }) => !suggestions.some((suggestion) => sameTarget(suggestion.target, target)));
  const set = (i: number, target: ColumnTarget) =>
    onMap(i < 0 ? [...batch.map, { column, target }] : batch.map.map((row, k) => (k === i ? { column, target } : row)));
  return (
    <tr>
      <Box as="td" strong maxWide={190} breaks>
        {column}
      </Box>
      <td>
        {listed.map(({ target, i }, n) => (
          <Target
            key={i}
            name={n === 0 ? `What ${column} becomes` : `What ${column} becomes too`}
            target={target}
            choices={choices}
            off={off}
            onSet={(next) =>
              set(i, suggestions.find((suggestion) => sameTarget(suggestion.target, next))?.target ?? next)
            }
            onRemove={n === 0 ? undefined : () => onMap(batch.map.filter((_, k) => k !== i))}
          />
        ))}
        {!off && listed[0]?.target.to !== 'ignore' && (
          <Button
            size="small"
            color="secondary"
            sx={{ p: 0, minWidth: 0, fontSize: 11.5 }}
            onClick={() => onMap([...batch.map, { column, target: { to: 'ignore' } }])}
          >
            + feeds something else too
          </Button>
        )}
      </td>
      <Box as="td" small muted maxWide={190}>
        {own ? 'chosen by you' : best?.why}
        {!own && best && best.score > 0 && <b> {best.score}</b>}
      </Box>
      <Box as="td" small maxWide={420}>
        {batch.sample
          .filter((row) => (row.refused.length === 0 || isNoneRead) && (row.cells[at] ?? '') !== '')
          .slice(0, 3)
          .map((row) => (
            <Box cut key={row.row}>
              <Box as="span" muted>
                {row.cells[at]?.slice(0, 60)}
              </Box>
              {entries.map(({ i }) => {
                const becomes = row.becomes[i];
                if (!becomes) return null;
                return (
                  <span key={i}>
                    {becomes.text !== '' && becomes.text !== row.cells[at] && <> → {becomes.text.slice(0, 60)}</>}
                    {becomes.note && (
                      <Box as="span" tone={becomes.lost ? 'blocked' : 'advice'}>
                        {' '}
                        {signOf(becomes)} {becomes.note}
                      </Box>
                    )}
                  </span>
                );
              })}
            </Box>
          ))}
      </Box>
    </tr>
  );
}

function Target({
  name,
  target,
  choices,
  off,
  onSet,
  onRemove,
}: {
  name: string;
  target: ColumnTarget;
  choices: Choice[];
  off: boolean;
  onSet: (target: ColumnTarget) => void;
  onRemove: (() => void) | undefined;
}) {
  const [open, setOpen] = useState(false);
  const says = sayReading(target);
  return (
    <Box below={1}>
      <Box row gap={0.5}>
        <Autocomplete
          size="small"
          disableClearable
          disabled={off}
          sx={{ flex: 1 }}
          options={choices}
          groupBy={(choice) => choice.group}
          getOptionLabel={(choice) => choice.label}
          isOptionEqualToValue={(a, b) => sameTarget(a.target, b.target)}
          value={choices.find((choice) => sameTarget(choice.target, target)) ?? ignored}
          onChange={(_, choice) => onSet(choice.target)}
          renderInput={(params) => (
            <TextField
              {...params}
              slotProps={{ ...params.slotProps, htmlInput: { ...params.slotProps?.htmlInput, 'aria-label': name } }}
            />
          )}
        />
        {onRemove && !off && (
          <IconButton size="small" aria-label={`Take out: ${name}`} onClick={onRemove}>
            <CloseIcon fontSize="inherit" />
          </IconButton>
        )}
      </Box>
      {target.to === 'attribute' && (
        <Box as="span" small muted>
          {says.join(' · ')}{' '}
          {!off && (
            <Button
              size="small"
              color="secondary"
              sx={{ p: 0, minWidth: 0, fontSize: 11.5 }}
              onClick={() => setOpen(!open)}
            >
              {open ? 'close' : 'how it is read'}
            </Button>
          )}
        </Box>
      )}
      {open && target.to === 'attribute' && <Details target={target} onSet={onSet} />}
    </Box>
  );
}

function Details({
  target,
  onSet,
}: {
  target: Extract<ColumnTarget, { to: 'attribute' }>;
  onSet: (target: ColumnTarget) => void;
}) {
  const field = (label: string, value: string, set: (text: string) => ColumnTarget) => (
    <TextField
      key={label}
      label={label}
      defaultValue={value}
      sx={{ width: 128 }}
      onBlur={(event) => event.target.value !== value && onSet(set(event.target.value))}
      onKeyDown={(event) => {
        if (event.key === 'Enter') (event.target as HTMLInputElement).blur();
      }}
    />
  );
  const { unit, part, join, ...rest } = target;
  const kept = { unit, part, join };
  const given = (change: Partial<typeof kept>) => ({
    ...rest,
    ...Object.fromEntries(Object.entries({ ...kept, ...change }).filter(([, value]) => value !== undefined)),
  });
  return (
    <Box wrap row gap={1.5} around={[1.5, 0]}>
      {field('Bare figures are in', unit ?? '', (text) => given({ unit: text.trim() || undefined }))}
      {field('Part of the cell', part === undefined ? '' : String(part), (text) =>
        given({ part: /^[1-9]$/.test(text.trim()) ? Number(text) : undefined }),
      )}
      {field('Put together with', join ?? '', (text) => given({ join: text === '' ? undefined : text }))}
    </Box>
  );
}
