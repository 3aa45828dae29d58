/** The rule of a fill, edited by its kind: a source, a fixed value, parts, a translation, the first that is not empty. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type ChannelAttributeAnswer } from '@velvet-shelf/contract';
import type { FillRule } from '@velvet-shelf/core/fills';
import { useState } from 'react';
import { useCompared } from './compared';
import { RemoveButton } from '../design/RemoveButton';
import { WhenEditor } from './WhenEditor';

function SourceSelect({
  attribute,
  value,
  onChange,
  label,
}: {
  attribute: ChannelAttributeAnswer;
  value: string;
  onChange: (name: string) => void;
  label: string;
}) {
  return (
    <TextField
      select
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      sx={{ width: 190 }}
    >
      {attribute.sources.map((source) => (
        <MenuItem key={source.name} value={source.name}>
          {source.label}
        </MenuItem>
      ))}
    </TextField>
  );
}

export function RuleEditor({
  rule,
  attribute,
  onChange,
}: {
  rule: FillRule;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  switch (rule.kind) {
    case 'copy':
      return (
        <SourceSelect
          attribute={attribute}
          label="From"
          value={rule.from}
          onChange={(from) => onChange({ ...rule, from })}
        />
      );
    case 'fixed':
      return (
        <ChannelValue
          attribute={attribute}
          label="Value"
          width={190}
          value={rule.value}
          onChange={(value) => onChange({ ...rule, value })}
        />
      );
    case 'when':
      return <WhenEditor rule={rule} attribute={attribute} onChange={onChange} />;
    case 'compose':
      return (
        <Box col gap={2}>
          {rule.parts.map((part, i) => {
            const set = (next: (typeof rule.parts)[number]) =>
              onChange({ ...rule, parts: rule.parts.map((part, n) => (n === i ? next : part)) });
            return (
              <Box row key={i}>
                {'from' in part ? (
                  <>
                    <TextField
                      label="Before"
                      value={part.before ?? ''}
                      sx={{ width: 80 }}
                      onChange={(event) => set({ ...part, before: event.target.value })}
                    />
                    <SourceSelect
                      attribute={attribute}
                      label="Part"
                      value={part.from}
                      onChange={(from) => set({ ...part, from })}
                    />
                    <TextField
                      label="After"
                      value={part.after ?? ''}
                      sx={{ width: 80 }}
                      onChange={(event) => set({ ...part, after: event.target.value })}
                    />
                  </>
                ) : (
                  <TextField label="Text" value={part.text} onChange={(event) => set({ text: event.target.value })} />
                )}
                <RemoveButton
                  of={`part ${i + 1}`}
                  onClick={() => onChange({ ...rule, parts: rule.parts.filter((_, n) => n !== i) })}
                />
              </Box>
            );
          })}
          <Box row>
            <Button
              color="secondary"
              onClick={() =>
                onChange({ ...rule, parts: [...rule.parts, { from: attribute.sources[0]?.name ?? '', before: ' ' }] })
              }
            >
              Add a value
            </Button>
            <Button color="secondary" onClick={() => onChange({ ...rule, parts: [...rule.parts, { text: ' ' }] })}>
              Add text
            </Button>
          </Box>
        </Box>
      );
    case 'translate':
      return <Translation rule={rule} attribute={attribute} onChange={onChange} />;
    case 'first':
      return (
        <Box as="ol" padLeft={5} around={0}>
          {rule.of.map((fillRule, i) => (
            <Box as="li" below={2} key={i}>
              <Box row align="start">
                <RuleEditor
                  rule={fillRule}
                  attribute={attribute}
                  onChange={(next) => onChange({ ...rule, of: rule.of.map((each, n) => (n === i ? next : each)) })}
                />
                <RemoveButton
                  of={`rule ${i + 1}`}
                  onClick={() => onChange({ ...rule, of: rule.of.filter((_, n) => n !== i) })}
                />
              </Box>
            </Box>
          ))}
          <Button
            color="secondary"
            onClick={() =>
              onChange({ ...rule, of: [...rule.of, { kind: 'copy', from: attribute.sources[0]?.name ?? '' }] })
            }
          >
            Add another
          </Button>
        </Box>
      );
  }
}

/** A value as the channel wants it: one of its closed list, or typed. */
function ChannelValue({
  attribute,
  label,
  width,
  value,
  onChange,
}: {
  attribute: ChannelAttributeAnswer;
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

function Translation({
  rule,
  attribute,
  onChange,
}: {
  rule: Extract<FillRule, { kind: 'translate' }>;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const compared = useCompared().data ?? [];
  const listed = compared.find(({ key }) => key === rule.from)?.choices ?? null;
  return (
    <div>
      <Box row below={2}>
        <SourceSelect
          attribute={attribute}
          label="Translates"
          value={rule.from}
          onChange={(name) => onChange({ ...rule, from: name })}
        />
        <TextField
          select
          label="What is not in the table"
          value={rule.otherwise}
          onChange={(event) => onChange({ ...rule, otherwise: event.target.value as 'keep' | 'empty' })}
          sx={{ width: 190 }}
        >
          <MenuItem value="keep">is kept as it is</MenuItem>
          <MenuItem value="empty">gives nothing</MenuItem>
        </TextField>
      </Box>
      <Box wrap row gap={1.5}>
        {Object.entries(rule.table).map(([ours, theirs]) => (
          <Chip
            key={ours}
            size="small"
            label={`${listed?.find(({ key }) => key === ours)?.name ?? ours} → ${theirs}`}
            onDelete={() =>
              onChange({
                ...rule,
                table: Object.fromEntries(Object.entries(rule.table).filter(([key]) => key !== ours)),
              })
            }
          />
        ))}
      </Box>
      <Box
        as="form"
        row
        above={2}
        onSubmit={(event) => {
          event.preventDefault();
          onChange({ ...rule, table: { ...rule.table, [from]: to } });
          setFrom('');
          setTo('');
        }}
      >
        <TextField
          select={listed !== null}
          label="Our value"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
          sx={{ width: 150 }}
        >
          {listed?.map(({ key, name }) => (
            <MenuItem key={key} value={key}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <ChannelValue attribute={attribute} label="Theirs" width={150} value={to} onChange={setTo} />
        <Button type="submit" disabled={from === '' || to === ''}>
          Add
        </Button>
      </Box>
    </div>
  );
}
