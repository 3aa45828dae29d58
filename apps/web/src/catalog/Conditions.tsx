/** The conditions of a view as chips that are opened again, one by one or in groups, and a small form to add one. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Popover from '@mui/material/Popover';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { Comparison, Condition } from '@velvet-shelf/core/conditions';
import { type ReactNode, useState } from 'react';
import { ask } from '../api/ask';
import { type Comparable, ComparisonFields, isBare, operators } from './ComparisonFields';
import { ConditionTree, groupOf, partsOf, plainCondition } from './ConditionTree';

/** What is being written: of the chip at this place, or a new one behind them. */
interface Draft {
  place: number;
  condition: Condition;
  anchor: HTMLElement;
}

export function ConditionBar({
  conditions,
  fixed,
  onChange,
  children,
}: {
  conditions: readonly Condition[];
  /** What narrows the goods besides. */
  fixed?: { label: string; onDelete: () => void } | undefined;
  onChange: (next: Condition[]) => void;
  /** Stands before them. */
  children?: ReactNode;
}) {
  const attributes = useQuery({ ...ask(api.catalog.attributes), staleTime: 300_000 });
  const listed = attributes.data?.items ?? [];
  const [draft, setDraft] = useState<Draft>();
  const begin = (anchor: HTMLElement, condition: Condition, place = conditions.length) =>
    setDraft({ place, condition, anchor });
  const write = (condition: Condition) => draft && setDraft({ ...draft, condition });
  return (
    <Box wrap row below={2.5} gap={1.5}>
      {children}
      {fixed && <Chip size="small" color="primary" label={fixed.label} onDelete={fixed.onDelete} />}
      {conditions.map((condition, i) => (
        <Chip
          key={i}
          size="small"
          label={sayCondition(condition, listed)}
          onClick={({ currentTarget }) => begin(currentTarget, condition, i)}
          onDelete={() => onChange(conditions.filter((_, n) => n !== i))}
        />
      ))}
      <Button
        color="secondary"
        sx={{ p: '2px 6px' }}
        disabled={listed.length === 0}
        onClick={({ currentTarget }) => begin(currentTarget, blank(listed))}
      >
        + Condition
      </Button>
      <Button
        color="secondary"
        sx={{ p: '2px 6px' }}
        disabled={listed.length === 0}
        onClick={({ currentTarget }) => begin(currentTarget, groupOf('any', [blank(listed)]))}
      >
        + Group
      </Button>
      <Popover
        open={draft !== undefined}
        anchorEl={draft?.anchor ?? null}
        onClose={() => setDraft(undefined)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        {draft && (
          <Box
            as="form"
            row
            pad={3.5}
            align={'attribute' in draft.condition ? 'center' : 'end'}
            onSubmit={(event) => {
              event.preventDefault();
              const next = [...conditions];
              next[draft.place] = plainCondition(draft.condition);
              onChange(next);
              setDraft(undefined);
            }}
          >
            {'attribute' in draft.condition ? (
              <ComparisonFields comparison={draft.condition} attributes={listed} onChange={write} />
            ) : (
              <ConditionTree condition={draft.condition} attributes={listed} onChange={write} label="Group" />
            )}
            <Button type="submit" variant="contained" disabled={!isSaid(draft.condition)}>
              {draft.place < conditions.length ? 'Change' : 'Add'}
            </Button>
          </Box>
        )}
      </Popover>
    </Box>
  );
}

const blank = (attributes: readonly Comparable[]): Comparison => ({
  attribute: attributes[0]?.key ?? '',
  op: 'is',
  value: '',
});

/** Nothing in it is left open. */
function isSaid(condition: Condition): boolean {
  if ('attribute' in condition) return isBare(condition) || Boolean(condition.value);
  const { parts } = partsOf(condition);
  return parts.length > 0 && parts.every(isSaid);
}

const kindWords = { all: 'all of', any: 'one of', none: 'none of' };

function sayCondition(condition: Condition, attributes: readonly Comparable[]): string {
  if (!('attribute' in condition)) {
    const { kind, parts } = partsOf(condition);
    return `${kindWords[kind]}: ${parts.map((part) => sayCondition(part, attributes)).join(' · ')}`;
  }
  const { attribute, op, value } = condition;
  const chosen = attributes.find(({ key }) => key === attribute);
  const name = chosen?.choices?.find(({ key }) => key === value)?.name ?? value ?? '';
  return `${chosen?.label ?? attribute} ${operators.find(([each]) => each === op)?.[1] ?? op} ${name}`.trim();
}
