/** How a file is read: found out, each setting with what decided it, and open to correction. */
import { Box } from '../design/Box';
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useQuery } from '@tanstack/react-query';
import { encodings, formatNames, textFormats } from '@velvet-shelf/core/tabular';
import { type BatchAnswer, api } from '@velvet-shelf/contract';
import { type ReactNode, useState } from 'react';
import { ask } from '../api/ask';
import { count } from '../design/words';
import { NewSupplier } from '../company/NewSupplier';

type Reading = BatchAnswer['reading'];
export interface Correction {
  supplierId?: number;
  reading?: Reading;
  format?: Reading['format'];
  map?: BatchAnswer['map'];
  scope?: BatchAnswer['scope'];
  makesNew?: boolean;
}

/** The choice that is none of those there are. */
const newOne = 'new';

export function ReadingSettings({
  batch,
  off,
  onCorrect,
}: {
  batch: BatchAnswer;
  off: boolean;
  onCorrect: (change: Correction) => void;
}) {
  const suppliers = useQuery(ask(api.company.suppliers));
  const [isAdding, setAdding] = useState(false);
  const { detected, reading } = batch;
  const readsMoney = useReadsMoney(batch);
  const set = (change: Record<string, unknown>) => onCorrect({ reading: { ...reading, ...change } });
  const why = (key: string) => detected.why[key] ?? '';
  const isExchange = batch.kind === 'round-trip';
  return (
    <>
      <Box wrap row gap={3} align="start" below={2.5}>
        {!isExchange && (
          <Setting label="Supplier" why={why('supplier') || 'nothing in it says whose it is: choose'}>
            {isAdding ? (
              <NewSupplier
                onCancel={() => setAdding(false)}
                onAdded={(supplierId) => {
                  setAdding(false);
                  onCorrect({ supplierId });
                }}
              />
            ) : (
              <Select
                value={batch.supplier === null ? '' : String(batch.supplierId)}
                displayEmpty
                disabled={off}
                sx={{ maxWidth: 170 }}
                inputProps={{ 'aria-label': 'Supplier' }}
                onChange={({ target: { value } }) =>
                  value === newOne ? setAdding(true) : onCorrect({ supplierId: Number(value) })
                }
              >
                {batch.supplier === null && (
                  <MenuItem value="" disabled>
                    Whose is it?
                  </MenuItem>
                )}
                {(suppliers.data?.items ?? [{ id: batch.supplierId, name: batch.supplier }]).map((supplier) => (
                  <MenuItem key={supplier.id} value={String(supplier.id)}>
                    {supplier.name}
                  </MenuItem>
                ))}
                <MenuItem value={newOne}>A new supplier…</MenuItem>
              </Select>
            )}
          </Setting>
        )}
        {!isExchange && (
          <Pick
            label="This file is"
            why={
              batch.scope === 'whole'
                ? 'goods not in it are marked, never deleted'
                : batch.scope === 'update'
                  ? 'only what it gives is changed; unknown numbers are refused'
                  : 'goods not in it stay as they are'
            }
            value={batch.scope}
            options={[
              ['whole', 'their whole list'],
              ['some', 'some of their goods'],
              ['update', 'news of known goods'],
            ]}
            off={off}
            onPick={(scope) => onCorrect({ scope: scope as BatchAnswer['scope'] })}
          />
        )}
        {isExchange || !textFormats.includes(reading.format) ? (
          <Setting label="Format" why={why('format')}>
            <Box pad={[2, 0]} medium>
              {formatNames[reading.format]}
            </Box>
          </Setting>
        ) : (
          <Pick
            label="Format"
            why={why('format')}
            value={reading.format}
            options={textFormats.map((format) => [format, formatNames[format]])}
            off={off}
            onPick={(format) => onCorrect({ format: format as Reading['format'] })}
          />
        )}
        {'encoding' in reading && (
          <Pick
            label="Encoding"
            why={why('encoding')}
            value={reading.encoding}
            options={encodings.map((encoding) => [encoding, ...encodingWords(encoding)])}
            off={off}
            onPick={(encoding) => set({ encoding })}
          />
        )}
        {reading.format === 'delimited' && (
          <>
            <Pick
              label="Separator"
              why={why('delimiter')}
              value={reading.delimiter}
              options={[
                [';', 'Semicolon ;'],
                ['\t', 'Tab'],
                [',', 'Comma ,'],
                ['|', 'Bar |'],
              ]}
              off={off}
              onPick={(delimiter) => set({ delimiter })}
            />
            <Pick
              label="Header row"
              why={why('headerRow')}
              value={String(reading.headerRow)}
              options={rowChoices(reading.headerRow)}
              off={off}
              onPick={(row) => set({ headerRow: Number(row) })}
            />
          </>
        )}
        {'itemPath' in reading && (
          <Pick
            label="Items are"
            why={why('itemPath')}
            value={reading.itemPath}
            options={pathChoices(detected.itemPaths, reading.itemPath, 'the document')}
            off={off}
            onPick={(itemPath) => set({ itemPath })}
          />
        )}
        {'variantPath' in reading && (
          <Pick
            label="Variants are"
            why={why('variantPath')}
            value={reading.variantPath ?? ''}
            options={[
              ['', 'none: one row an item'],
              ...pathChoices(detected.variantPaths, reading.variantPath ?? '', ''),
            ].filter(([path], i) => i === 0 || path !== '')}
            off={off}
            onPick={(path) => set({ variantPath: path === '' ? null : path })}
          />
        )}
        <Pick
          label="Decimals"
          why={why('decimal')}
          value={reading.decimal}
          options={[
            [',', 'Comma 1,5'],
            ['.', 'Point 1.5'],
          ]}
          off={off}
          onPick={(decimal) => set({ decimal })}
        />
        {readsMoney && (
          <Pick
            label="Amounts are in"
            why={
              reading.currency ? 'where cell and header name none' : 'what cell, header or the column beside it says'
            }
            value={reading.currency ?? ''}
            options={[['', 'as written'], ...currencies.map((code) => [code, code])]}
            off={off}
            onPick={(currency) => set({ currency: currency === '' ? undefined : currency })}
          />
        )}
        <Pick
          label="Dates"
          why={why('dateOrder')}
          value={reading.dateOrder}
          options={[
            ['ymd', 'Year first'],
            ['dmy', 'Day first'],
            ['mdy', 'Month first'],
          ]}
          off={off}
          onPick={(dateOrder) => set({ dateOrder })}
        />
      </Box>
      {reading.format === 'xlsx' && (
        <Box wrap row gap={4.5} below={2}>
          {reading.sheets.map((sheet, i) => {
            const change = (part: Partial<typeof sheet>) =>
              set({ sheets: reading.sheets.map((sheet, k) => (k === i ? { ...sheet, ...part } : sheet)) });
            const says = why('sheets').split('; ')[i]?.replace(`${sheet.name}: `, '');
            return (
              <Box as="span" row gap={1} key={sheet.name}>
                <Checkbox
                  size="small"
                  sx={{ p: 0.5 }}
                  checked={sheet.read}
                  disabled={off}
                  onChange={(_, read) => change({ read })}
                  slotProps={{ input: { 'aria-label': `Read the sheet ${sheet.name}` } }}
                />
                <b>{sheet.name}</b>
                <Box as="span" small muted>
                  {says}
                </Box>
                <Select
                  value={String(sheet.headerRow)}
                  disabled={off}
                  sx={{ '& .MuiSelect-select': { py: 0.3 } }}
                  inputProps={{ 'aria-label': `Header row of ${sheet.name}` }}
                  onChange={(event) => change({ headerRow: Number(event.target.value) })}
                >
                  {rowChoices(sheet.headerRow).map(([value = '', text]) => (
                    <MenuItem key={value} value={value}>
                      {text}
                    </MenuItem>
                  ))}
                </Select>
              </Box>
            );
          })}
        </Box>
      )}
      {detected.notes.length > 0 && (
        <Box as="p" small muted around={[0, 0, 2]}>
          Seen in it: {detected.notes.join(', ')}.
        </Box>
      )}
    </>
  );
}

const currencies = Intl.supportedValuesOf('currency');

/** Whether any column gives amounts of money. */
function useReadsMoney({ map }: BatchAnswer): boolean {
  const attributes = useQuery(ask(api.catalog.attributes));
  const isMoney = (key: string) => attributes.data?.items.find((attribute) => attribute.key === key)?.type === 'money';
  return map.some(({ target }) => target.to === 'price' || (target.to === 'attribute' && isMoney(target.attribute)));
}

/** What a single-byte encoding is for, where its name does not say. */
const encodingUses: Record<string, string> = {
  'windows-1250': 'Central Europe',
  'windows-1251': 'Cyrillic',
  'windows-1252': 'Western Europe',
  'windows-1253': 'Greek',
  'windows-1254': 'Turkish',
  'windows-1255': 'Hebrew',
  'windows-1256': 'Arabic',
  'windows-1257': 'Baltic',
  'windows-1258': 'Vietnamese',
  'iso-8859-2': 'Central Europe',
  'iso-8859-5': 'Cyrillic',
  'iso-8859-15': 'Western Europe, with €',
};
/** Name in the list, with what it is for, and the name alone once it is chosen. */
const encodingWords = (name: string): [string, string] => {
  const written = name.replace(/^(utf|iso|koi8|cp)/, (head) => head.toUpperCase()).replace(/^windows/, 'Windows');
  return [encodingUses[name] ? `${written} · ${encodingUses[name]}` : written, written];
};

const rowChoices = (now: number): string[][] =>
  [...new Set([1, 2, 3, 4, 5, 6, 7, 8, now])].map((n) => [String(n), `Row ${n}`]);

const pathChoices = (found: { path: string; objects: number }[], now: string, root: string): string[][] => [
  ...(found.some((row) => row.path === now) ? [] : [[now, now || root]]),
  ...found.map(({ path, objects }) => [path, `${path || root} (${count(objects)})`]),
];

function Setting({ label, why, children }: { label: string; why: string; children: ReactNode }) {
  return (
    <Box wide="min-content" minWide={112}>
      <Box small strong>
        {label}
      </Box>
      {children}
      <Box muted textSize={11.5} above={0.5}>
        {why}
      </Box>
    </Box>
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
  /** Value, words in the list, and words once it is chosen where those are shorter. */
  options: string[][];
  off: boolean;
  onPick: (value: string) => void;
}) {
  return (
    <Setting label={label} why={why}>
      <Select
        value={value}
        disabled={off}
        displayEmpty
        onChange={(event) => onPick(event.target.value)}
        renderValue={(chosen) => {
          const [, text, short] = options.find(([key]) => key === chosen) ?? [];
          return short ?? text ?? chosen;
        }}
        inputProps={{ 'aria-label': label }}
        sx={{ maxWidth: 142 }}
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
