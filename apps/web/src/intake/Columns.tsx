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
import { ask } from '../api/ask';
import { call } from '../api/call';
import { DataTable } from '../design/DataTable';
import { ProblemBox } from '../design/feedback';
import { useCompany } from '../company/company';
import { type Correction, ReadingSettings } from './Reading';
import { signOf } from './notes';
import { type Choice, choicesFor, ignored, sameTarget, sayReading } from './targets';
import { Makes } from './Makes';
import { NewAttribute } from './NewAttribute';
import { Translations } from './Translations';
import { batchWork } from './work';

export function Columns({
  batch,
  canEdit,
  onChange,
}: {
  batch: BatchAnswer;
  canEdit: boolean;
  onChange: (batch: BatchAnswer) => void;
}) {
  const attributes = useQuery({ ...ask(api.catalog.attributes), staleTime: 300_000 });
  const correct = useMutation({
    mutationKey: batchWork(batch.id),
    mutationFn: (body: Correction) => call(api.intake.reading, { params: { id: batch.id }, body }),
    onSuccess: onChange,
  });
  const off = !canEdit || correct.isPending;
  const isExchange = batch.kind === 'round-trip';
  const choices = choicesFor(attributes.data?.items ?? [], useCompany(), batch.makes);
  const put = (index: number, target: ColumnTarget) =>
    correct.mutate({ map: batch.map.map((row, i) => (i === index ? { ...row, target } : row)) });
  return (
    <Box scroll grow pad={[2.5, 6, 6]} role="region" aria-label="Reading and columns" tabIndex={0}>
      {correct.error && <ProblemBox error={correct.error} />}
      <ReadingSettings batch={batch} off={off} onCorrect={(change) => correct.mutate(change)} />
      {isExchange ? (
        <Exchange batch={batch} off={off} onCorrect={(change) => correct.mutate(change)} />
      ) : (
        <>
          <Makes
            key={batch.homeless.map(({ column }) => column).join('\u0001')}
            batch={batch}
            labels={new Map(attributes.data?.items.map(({ key, label }) => [key, label]))}
            off={off}
            onChange={onChange}
          />
          <Translations
            batch={batch}
            off={off}
            onSet={put}
            onMap={(map) => correct.mutate({ map })}
            onChange={onChange}
          />
          <DataTable
            label="Columns of the file"
            look={{ surface: 'card' }}
            rows={columnsOf(batch)}
            keyOf={({ column }) => column}
            columns={[
              { head: 'Column', cell: ({ column }) => column, look: { strong: true, maxWide: 190, breaks: true } },
              {
                head: 'Becomes',
                headLook: { wide: 290 },
                cell: (column) => (
                  <Becomes
                    column={column}
                    batch={batch}
                    choices={choices}
                    off={off}
                    onMap={(map) => correct.mutate({ map })}
                    onMade={onChange}
                  />
                ),
              },
              {
                head: 'Because',
                look: { small: true, muted: true, maxWide: 190 },
                cell: ({ isOwn, suggestions: [best] }) => (
                  <>
                    {isOwn ? 'chosen by you' : best?.why}
                    {!isOwn && best && best.score > 0 && <b> {best.score}</b>}
                  </>
                ),
              },
              {
                head: 'First rows, and what they become',
                look: { small: true, maxWide: 420 },
                cell: (column) => <FirstCells column={column} batch={batch} />,
              },
            ]}
          />
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

/** A column with what it is mapped to (`i` is the place in the map; -1 for one that is not in it) and what was suggested. */
interface FileColumn {
  column: string;
  at: number;
  listed: { target: ColumnTarget; i: number }[];
  suggestions: BatchAnswer['suggestions'];
  /** Mapped otherwise than anything suggested. */
  isOwn: boolean;
}

const columnsOf = (batch: BatchAnswer): FileColumn[] =>
  batch.columns.map((column, at) => {
    const entries = batch.map.flatMap((row, i) => (row.column === column ? [{ target: row.target, i }] : []));
    const listed = entries.length > 0 ? entries : [{ target: { to: 'ignore' } as ColumnTarget, i: -1 }];
    const suggestions = batch.suggestions.filter((suggestion) => suggestion.column === column);
    const isOwn = listed.some(({ target }) => !suggestions.some((suggestion) => sameTarget(suggestion.target, target)));
    return { column, at, listed, suggestions, isOwn };
  });

/** What a column becomes: one thing, or several. */
function Becomes({
  column: { column, listed, suggestions },
  batch,
  choices,
  off,
  onMap,
  onMade,
}: {
  column: FileColumn;
  batch: BatchAnswer;
  choices: Choice[];
  off: boolean;
  onMap: (map: BatchAnswer['map']) => void;
  onMade: (batch: BatchAnswer) => void;
}) {
  const { map, homeless } = batch;
  const [isMaking, setMaking] = useState(false);
  const guess = homeless.find((each) => each.column === column);
  const set = (i: number, target: ColumnTarget) =>
    onMap(i < 0 ? [...map, { column, target }] : map.map((row, k) => (k === i ? { column, target } : row)));
  return (
    <>
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
          onRemove={n === 0 ? undefined : () => onMap(map.filter((_, k) => k !== i))}
        />
      ))}
      {!off && guess && !isMaking && (
        <Button
          size="small"
          color="secondary"
          sx={{ p: 0, minWidth: 0, fontSize: 11.5 }}
          aria-label={`New attribute of ${column}`}
          onClick={() => setMaking(true)}
        >
          + new attribute
        </Button>
      )}
      {guess && isMaking && (
        <NewAttribute batch={batch} column={guess} onMade={onMade} onCancel={() => setMaking(false)} />
      )}
      {!off && listed[0]?.target.to !== 'ignore' && (
        <Button
          size="small"
          color="secondary"
          sx={{ p: 0, minWidth: 0, fontSize: 11.5 }}
          onClick={() => onMap([...map, { column, target: { to: 'ignore' } }])}
        >
          + feeds something else too
        </Button>
      )}
    </>
  );
}

/** Its first cells that hold something, and what each becomes. */
function FirstCells({ column: { at, listed }, batch: { sample } }: { column: FileColumn; batch: BatchAnswer }) {
  // Without an article number no row can be read, and still they show what the columns hold.
  const isNoneRead = sample.every((row) => row.refused.length > 0);
  return sample
    .filter((row) => (row.refused.length === 0 || isNoneRead) && (row.cells[at] ?? '') !== '')
    .slice(0, 3)
    .map((row) => (
      <Box cut key={row.row}>
        <Box as="span" muted>
          {row.cells[at]?.slice(0, 60)}
        </Box>
        {listed.map(({ i }) => {
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
    ));
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
      {target.to === 'price' && target.vat && (
        <Box row gap={1.5} above={1}>
          <TextField
            label="VAT rate, %"
            defaultValue={target.vat.rate}
            disabled={off}
            error={target.vat.rate === ''}
            helperText={`It is ${target.vat.is} VAT, our prices are ${target.vat.is === 'with' ? 'without' : 'with'}`}
            sx={{ width: 200 }}
            onBlur={(event) => {
              const rate = event.target.value.trim().replace(',', '.');
              if (target.vat && rate !== target.vat.rate) onSet({ ...target, vat: { ...target.vat, rate } });
            }}
            onKeyDown={(event) => {
              if (event.key === 'Enter') (event.target as HTMLInputElement).blur();
            }}
          />
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
