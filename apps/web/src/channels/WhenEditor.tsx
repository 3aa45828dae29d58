/** When … then: cases that are looked at in their order, and what there is where none of them holds. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { type ChannelAttributeAnswer } from '@velvet-shelf/contract';
import type { FillRule } from '@velvet-shelf/core/fills';
import { ComparisonFields } from '../catalog/ComparisonFields';
import { RemoveButton } from '../design/RemoveButton';
import { useCompared } from './compared';
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
    onChange({ ...rule, cases: rule.cases.map((part, i) => (i === at ? { ...part, ...change } : part)) });
  const first: FillRule = { kind: 'copy', from: attribute.sources[0]?.name ?? '' };
  const { data } = useCompared();
  return (
    <>
      <ol className="cases">
        {rule.cases.map((part, i) => (
          <li key={i}>
            <Box as="span" row>
              <b>When</b>
              {'attribute' in part.if ? (
                <ComparisonFields
                  comparison={part.if}
                  attributes={data ?? []}
                  onChange={(comparison) => set(i, { if: comparison })}
                />
              ) : (
                <Box as="span" muted>
                  a condition of several parts
                </Box>
              )}
            </Box>
            <ThenEditor rule={part.then} attribute={attribute} onChange={(then) => set(i, { then })} />
            {rule.cases.length > 1 && (
              <RemoveButton
                of={`case ${i + 1}`}
                onClick={() => onChange({ ...rule, cases: rule.cases.filter((_, n) => n !== i) })}
              />
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
            cases: [...rule.cases, { if: { attribute: '', op: 'isNotEmpty' }, then: first }],
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
    <Box as="span" row>
      <Button color="secondary" onClick={() => onChange(other)}>
        {rule.kind === 'fixed' ? 'one value' : 'a copy'}
      </Button>
      <RuleEditor rule={rule} attribute={attribute} onChange={onChange} />
    </Box>
  );
}
