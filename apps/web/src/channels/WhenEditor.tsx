/** When … then: cases that are looked at in their order, and what there is where none of them holds. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type ChannelAttributeAnswer } from '@velvet-shelf/contract';
import type { Comparison, Condition } from '@velvet-shelf/core/conditions';
import type { FillRule } from '@velvet-shelf/core/fills';
import { operators } from '../catalog/Conditions';
import { RuleEditor } from './RuleEditor';
import './when.css';

type When = Extract<FillRule, { kind: 'when' }>;

export function WhenEditor({
  rule,
  attribute,
  onChange,
}: {
  rule: When;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  const set = (at: number, change: Partial<When['cases'][number]>) =>
    onChange({ ...rule, cases: rule.cases.map((one, i) => (i === at ? { ...one, ...change } : one)) });
  const first: FillRule = { kind: 'copy', from: attribute.sources[0]?.name ?? '' };
  return (
    <>
      <ol className="cases">
        {rule.cases.map((one, i) => (
          <li key={i}>
            <ConditionEditor
              condition={one.if}
              sources={attribute.sources}
              onChange={(condition) => set(i, { if: condition })}
            />
            <ThenEditor rule={one.then} attribute={attribute} onChange={(then) => set(i, { then })} />
            {rule.cases.length > 1 && (
              <Button
                color="inherit"
                aria-label={`Remove case ${i + 1}`}
                onClick={() => onChange({ ...rule, cases: rule.cases.filter((_, n) => n !== i) })}
              >
                Remove
              </Button>
            )}
          </li>
        ))}
        <li>
          <b>Else</b>{' '}
          {rule.otherwise ? (
            <ThenEditor
              rule={rule.otherwise}
              attribute={attribute}
              onChange={(otherwise) => onChange({ ...rule, otherwise })}
            />
          ) : (
            'nothing is sent'
          )}{' '}
          <Button color="secondary" onClick={() => onChange({ ...rule, otherwise: rule.otherwise ? null : first })}>
            {rule.otherwise ? 'Send nothing' : 'Send something'}
          </Button>
        </li>
      </ol>
      <Button
        color="secondary"
        onClick={() =>
          onChange({
            ...rule,
            cases: [
              ...rule.cases,
              { if: { attribute: attribute.sources[0]?.name ?? '', op: 'isNotEmpty' }, then: first },
            ],
          })
        }
      >
        Add a case
      </Button>
    </>
  );
}

function ThenEditor({
  rule,
  attribute,
  onChange,
}: {
  rule: FillRule;
  attribute: ChannelAttributeAnswer;
  onChange: (rule: FillRule) => void;
}) {
  const other: FillRule =
    rule.kind === 'fixed' ? { kind: 'copy', from: attribute.sources[0]?.name ?? '' } : { kind: 'fixed', value: '0' };
  return (
    <span className="row">
      <Button color="secondary" onClick={() => onChange(other)}>
        {rule.kind === 'fixed' ? 'one value' : 'a copy'}
      </Button>
      <RuleEditor rule={rule} attribute={attribute} onChange={onChange} />
    </span>
  );
}

/** One comparison; conditions of several parts are kept as they are. */
function ConditionEditor({
  condition,
  sources,
  onChange,
}: {
  condition: Condition;
  sources: { name: string; label: string }[];
  onChange: (condition: Condition) => void;
}) {
  if (!('attribute' in condition)) return <span className="muted">a condition of several parts</span>;
  const bare = condition.op === 'isEmpty' || condition.op === 'isNotEmpty';
  const names = sources.some(({ name }) => name === condition.attribute)
    ? sources
    : [{ name: condition.attribute, label: condition.attribute }, ...sources];
  return (
    <span className="row">
      <b>When</b>
      <TextField
        select
        label="What"
        value={condition.attribute}
        onChange={(event) => onChange({ ...condition, attribute: event.target.value })}
      >
        {names.map(({ name, label }) => (
          <MenuItem key={name} value={name}>
            {label}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="Is"
        value={condition.op}
        onChange={(event) => onChange({ ...condition, op: event.target.value as Comparison['op'] })}
      >
        {operators.map(([op, words]) => (
          <MenuItem key={op} value={op}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {!bare && (
        <TextField
          label="Value"
          value={condition.value ?? ''}
          onChange={(event) => onChange({ ...condition, value: event.target.value })}
        />
      )}
    </span>
  );
}
