/** How a file is read and what its columns are: found out, explained, and open to correction. */
import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type AttributeAnswer, type BatchAnswer, api } from '@velvet-shelf/contract';
import type { ColumnTarget } from '@velvet-shelf/core/intake';
import { call } from '../api/call';
import { ProblemBox } from '../design/feedback';

interface Choice {
  label: string;
  group: string;
  target: ColumnTarget;
}

const fixed: Choice[] = [
  { label: 'Ignore this column', group: 'The row', target: { to: 'ignore' } },
  { label: 'Article number', group: 'The row', target: { to: 'key' } },
  { label: 'Family', group: 'The row', target: { to: 'family' } },
  { label: 'Options', group: 'The row', target: { to: 'options' } },
  { label: 'Bought from', group: 'The row', target: { to: 'boughtFrom' } },
  { label: 'Their number', group: 'The row', target: { to: 'theirNumber' } },
  { label: 'Stock', group: 'Price and stock', target: { to: 'stock' } },
  ...['GBP', 'EUR', 'SEK'].flatMap((currency): Choice[] => [
    { label: `Price ${currency}`, group: 'Price and stock', target: { to: 'price', kind: 'regular', currency } },
    { label: `Sale price ${currency}`, group: 'Price and stock', target: { to: 'price', kind: 'sale', currency } },
  ]),
  { label: 'Sale starts', group: 'Price and stock', target: { to: 'saleFrom' } },
  { label: 'Sale ends', group: 'Price and stock', target: { to: 'saleTo' } },
];

const languages = ['en-GB', 'de-DE', 'sv-SE'];

function choicesFor(attributes: AttributeAnswer[]): Choice[] {
  return [
    ...fixed,
    ...attributes.flatMap((one): Choice[] =>
      one.perLanguage
        ? languages.map((language) => ({
            label: `${one.label}, ${language}`,
            group: one.group,
            target: { to: 'attribute', attribute: one.key, language },
          }))
        : [{ label: one.label, group: one.group, target: { to: 'attribute', attribute: one.key } }],
    ),
  ];
}

const sameTarget = (a: ColumnTarget, b: ColumnTarget) =>
  a.to === b.to &&
  (a.to !== 'attribute' ||
    (b.to === 'attribute' && a.attribute === b.attribute && (a.language ?? '') === (b.language ?? ''))) &&
  (a.to !== 'price' || (b.to === 'price' && a.kind === b.kind && a.currency === b.currency));

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
  const suppliers = useQuery({ queryKey: ['suppliers'], queryFn: () => call(api.intake.suppliers) });
  const correct = useMutation({
    mutationFn: (body: Parameters<typeof call<typeof api.intake.reading>>[1] & object) =>
      call(api.intake.reading, { params: { id: batch.id }, ...body }),
    onSuccess: onChange,
  });
  const choices = choicesFor(attributes.data?.items ?? []);
  const setTarget = (column: string, target: ColumnTarget) =>
    correct.mutate({ body: { map: batch.map.map((one) => (one.column === column ? { column, target } : one)) } });
  const setReading = (change: Partial<BatchAnswer['reading']>) =>
    correct.mutate({ body: { reading: { ...batch.reading, ...change } } });
  const { detected, reading } = batch;
  const off = !canEdit || correct.isPending;
  return (
    <div className="grow scroll" style={{ padding: '10px 24px 24px' }}>
      {correct.error && <ProblemBox error={correct.error} />}
      <div className="row wrap" style={{ gap: 18, alignItems: 'flex-start', marginBottom: 14 }}>
        <Setting label="Supplier" why="from its header and the file’s name">
          <Select
            value={batch.supplierId}
            disabled={off}
            onChange={(event) => correct.mutate({ body: { supplierId: Number(event.target.value) } })}
            inputProps={{ 'aria-label': 'Supplier' }}
          >
            {suppliers.data?.items.map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {one.name}
              </MenuItem>
            ))}
          </Select>
        </Setting>
        <Pick
          label="Encoding"
          why={detected.encoding.why}
          value={reading.encoding}
          options={[
            ['utf-8', 'UTF-8'],
            ['windows-1252', 'Windows-1252'],
            ['utf-16le', 'UTF-16 LE'],
            ['utf-16be', 'UTF-16 BE'],
          ]}
          off={off}
          onPick={(encoding) => setReading({ encoding: encoding as BatchAnswer['reading']['encoding'] })}
        />
        <Pick
          label="Separator"
          why={detected.delimiter.why}
          value={reading.delimiter}
          options={[
            [';', 'Semicolon ;'],
            ['\t', 'Tab'],
            [',', 'Comma ,'],
            ['|', 'Bar |'],
          ]}
          off={off}
          onPick={(delimiter) => setReading({ delimiter: delimiter as BatchAnswer['reading']['delimiter'] })}
        />
        <Pick
          label="Header row"
          why={detected.headerRow.why}
          value={String(reading.headerRow)}
          options={[...new Set([1, 2, 3, 4, 5, reading.headerRow])].map((n) => [String(n), `Row ${n}`])}
          off={off}
          onPick={(row) => setReading({ headerRow: Number(row) })}
        />
        <Pick
          label="Decimals"
          why={detected.decimal.why}
          value={reading.decimal}
          options={[
            [',', 'Comma 1,5'],
            ['.', 'Point 1.5'],
          ]}
          off={off}
          onPick={(decimal) => setReading({ decimal: decimal as ',' | '.' })}
        />
        <Pick
          label="Dates"
          why={detected.dateOrder.why}
          value={reading.dateOrder}
          options={[
            ['ymd', 'Year first'],
            ['dmy', 'Day first'],
            ['mdy', 'Month first'],
          ]}
          off={off}
          onPick={(order) => setReading({ dateOrder: order as BatchAnswer['reading']['dateOrder'] })}
        />
      </div>
      <ClosedLists batch={batch} off={off} onSet={setTarget} />
      <table className="plain" style={{ background: 'var(--card)' }}>
        <thead>
          <tr>
            <th>Column</th>
            <th style={{ width: 250 }}>Becomes</th>
            <th>Because</th>
            <th>First rows, and what they become</th>
          </tr>
        </thead>
        <tbody>
          {batch.columns.map((column, i) => {
            const target = batch.map.find((one) => one.column === column)?.target ?? { to: 'ignore' };
            const suggestion = batch.suggestions.find((one) => one.column === column);
            const own = suggestion && !sameTarget(suggestion.target, target);
            return (
              <tr key={column}>
                <td style={{ fontWeight: 600 }}>{column}</td>
                <td>
                  <Autocomplete
                    size="small"
                    disableClearable
                    disabled={off}
                    options={choices}
                    groupBy={(one) => one.group}
                    getOptionLabel={(one) => one.label}
                    isOptionEqualToValue={(a, b) => sameTarget(a.target, b.target)}
                    value={choices.find((one) => sameTarget(one.target, target)) ?? (choices[0] as Choice)}
                    onChange={(_, one) =>
                      setTarget(
                        column,
                        suggestion && sameTarget(one.target, suggestion.target) ? suggestion.target : one.target,
                      )
                    }
                    renderInput={(params) => (
                      <TextField
                        {...params}
                        slotProps={{
                          ...params.slotProps,
                          htmlInput: { ...params.slotProps?.htmlInput, 'aria-label': `What ${column} becomes` },
                        }}
                      />
                    )}
                  />
                  {target.to === 'attribute' && (target.unit ?? target.currency) && (
                    <span className="muted small">figures in {target.unit ?? target.currency}</span>
                  )}
                </td>
                <td className="muted small" style={{ maxWidth: 190 }}>
                  {own ? 'chosen by you' : suggestion?.why}
                  {!own && suggestion && suggestion.score > 0 && <b> {suggestion.score}</b>}
                </td>
                <td className="small" style={{ maxWidth: 420 }}>
                  {batch.sample
                    .filter((row) => row.refused.length === 0 && (row.cells[i] ?? '') !== '')
                    .slice(0, 3)
                    .map((row) => {
                      const becomes = row.becomes[i];
                      return (
                        <div key={row.row} className="cut">
                          <span className="muted">{row.cells[i]?.slice(0, 60)}</span>
                          {becomes && becomes.text !== '' && becomes.text !== row.cells[i] && (
                            <> → {becomes.text.slice(0, 60)}</>
                          )}
                          {becomes?.note && (
                            <span style={{ color: becomes.lost ? 'var(--blocked)' : 'var(--advice)' }}>
                              {' '}
                              {becomes.lost ? '✕' : '≈'} {becomes.note}
                            </span>
                          )}
                        </div>
                      );
                    })}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Setting({ label, why, children }: { label: string; why: string; children: React.ReactNode }) {
  return (
    <div style={{ maxWidth: 180 }}>
      <div className="small" style={{ fontWeight: 600 }}>
        {label}
      </div>
      {children}
      <div className="muted" style={{ fontSize: 11.5, lineHeight: 1.3, marginTop: 2 }}>
        {why}
      </div>
    </div>
  );
}

function Pick({
  label,
  why,
  value,
  options,
  off,
  onPick,
}: {
  label: string;
  why: string;
  value: string;
  options: [string, string][] | string[][];
  off: boolean;
  onPick: (value: string) => void;
}) {
  return (
    <Setting label={label} why={why}>
      <Select
        value={value}
        disabled={off}
        onChange={(event) => onPick(event.target.value)}
        inputProps={{ 'aria-label': label }}
      >
        {options.map(([key = '', text]) => (
          <MenuItem key={key} value={key}>
            {text}
          </MenuItem>
        ))}
      </Select>
    </Setting>
  );
}

/** Values that fill a closed list and are not in it: each can be given one of ours. */
function ClosedLists({
  batch,
  off,
  onSet,
}: {
  batch: BatchAnswer;
  off: boolean;
  onSet: (column: string, target: ColumnTarget) => void;
}) {
  const lists = batch.closedLists.filter((list) =>
    list.values.some((one) => one.becomes === null || isTranslated(batch, list.column, one.value)),
  );
  if (lists.length === 0) return null;
  return (
    <div
      style={{
        marginBottom: 14,
        border: '1px solid var(--line)',
        borderRadius: 8,
        padding: '10px 14px',
        background: 'var(--card)',
      }}
    >
      <h3>Their words and ours</h3>
      {lists.map((list) => (
        <div key={list.column} className="row wrap" style={{ marginTop: 6, gap: 14 }}>
          <b className="small">{list.column}</b>
          {list.values.slice(0, 12).map((one) => (
            <label key={one.value} className="row small" style={{ gap: 6 }}>
              <span style={{ color: one.becomes === null ? 'var(--blocked)' : 'inherit' }}>
                {one.value} ({one.rows})
              </span>
              <Select
                value={one.becomes ?? ''}
                displayEmpty
                disabled={off}
                sx={{ '& .MuiSelect-select': { py: 0.3 } }}
                inputProps={{ 'aria-label': `${list.column} ${one.value} becomes` }}
                onChange={(event) => {
                  const target = batch.map.find((each) => each.column === list.column)?.target;
                  if (target?.to === 'attribute')
                    onSet(list.column, { ...target, values: { ...target.values, [one.value]: event.target.value } });
                }}
              >
                <MenuItem value="">
                  <i>nothing yet</i>
                </MenuItem>
                {list.choices.map((choice) => (
                  <MenuItem key={choice} value={choice}>
                    {choice}
                  </MenuItem>
                ))}
              </Select>
            </label>
          ))}
        </div>
      ))}
    </div>
  );
}

function isTranslated(batch: BatchAnswer, column: string, value: string): boolean {
  const target = batch.map.find((one) => one.column === column)?.target;
  return target?.to === 'attribute' && target.values?.[value] !== undefined;
}
