/** A condition as one builds it: groups of which all, one, or none hold, with comparisons and groups in them. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Comparison, Condition } from '@velvet-shelf/core/conditions';
import { Box } from '../design/Box';
import { RemoveButton } from '../design/RemoveButton';
import { type Comparable, ComparisonFields } from './ComparisonFields';

const kinds = { all: 'all of these hold', any: 'one of these holds', none: 'none of these holds' } as const;
type Kind = keyof typeof kinds;

/** A group as it is built: what none of holds is written as “not any”. */
export function partsOf(condition: Condition): { kind: Kind; parts: readonly Condition[] } {
  if ('all' in condition) return { kind: 'all', parts: condition.all };
  if ('any' in condition) return { kind: 'any', parts: condition.any };
  if ('not' in condition) return { kind: 'none', parts: 'any' in condition.not ? condition.not.any : [condition.not] };
  return { kind: 'all', parts: [condition] };
}

export function groupOf(kind: Kind, parts: Condition[]): Condition {
  if (kind === 'none') return { not: { any: parts } };
  return kind === 'all' ? { all: parts } : { any: parts };
}

const isGroup = (condition: Condition) => !('attribute' in condition);

export function ConditionTree({
  condition,
  attributes,
  onChange,
  label,
}: {
  condition: Condition;
  attributes: readonly Comparable[];
  onChange: (condition: Condition) => void;
  label: string;
}) {
  const { kind, parts } = partsOf(condition);
  const put = (i: number, part: Condition) =>
    onChange(
      groupOf(
        kind,
        parts.map((each, n) => (n === i ? part : each)),
      ),
    );
  const add = (part: Condition) => onChange(groupOf(kind, [...parts, part]));
  const blank: Comparison = { attribute: attributes[0]?.key ?? '', op: 'is', value: '' };
  return (
    <Box role="group" aria-label={label} framed pad={[2.5, 3]} surface="card">
      <TextField
        select
        label="Goods of which"
        value={kind}
        onChange={(event) => onChange(groupOf(event.target.value as Kind, [...parts]))}
        sx={{ mb: 1.5, minWidth: 190 }}
      >
        {Object.entries(kinds).map(([value, words]) => (
          <MenuItem key={value} value={value}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      {parts.length === 0 && (
        <Box muted small below={2}>
          {kind === 'any' ? 'Nothing is named: no goods.' : 'Nothing is named: all goods.'}
        </Box>
      )}
      {parts.map((part, i) => (
        <Box row wrap align="start" below={2} key={i}>
          {isGroup(part) ? (
            <Box grow>
              <ConditionTree
                condition={part}
                attributes={attributes}
                onChange={(next) => put(i, next)}
                label={`${label}, group ${i + 1}`}
              />
            </Box>
          ) : (
            <ComparisonFields
              comparison={part as Comparison}
              attributes={attributes}
              onChange={(next) => put(i, next)}
            />
          )}
          <RemoveButton
            of={isGroup(part) ? `group ${i + 1}` : `condition ${i + 1}`}
            onClick={() =>
              onChange(
                groupOf(
                  kind,
                  parts.filter((_, n) => n !== i),
                ),
              )
            }
          />
        </Box>
      ))}
      <Button color="secondary" disabled={attributes.length === 0} onClick={() => add(blank)}>
        + Condition
      </Button>
      <Button color="secondary" onClick={() => add(groupOf('any', []))}>
        + Group
      </Button>
    </Box>
  );
}

/** As it is asked with: what compares with nothing has no value. */
export function plainCondition(condition: Condition): Condition {
  if ('all' in condition) return { all: condition.all.map(plainCondition) };
  if ('any' in condition) return { any: condition.any.map(plainCondition) };
  if ('not' in condition) return { not: plainCondition(condition.not) };
  const { attribute, op, value, language } = condition;
  return {
    attribute,
    op,
    ...(op === 'isEmpty' || op === 'isNotEmpty' ? {} : { value: value ?? '' }),
    ...(language === undefined ? {} : { language }),
  };
}
