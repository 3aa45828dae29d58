/** The conditions of a view as chips, and a small form to add one. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Popover from '@mui/material/Popover';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import type { Comparison } from '@velvet-shelf/core/conditions';
import { type ReactNode, useState } from 'react';
import { ask } from '../api/ask';
import { ComparisonFields, isBare, operators } from './ComparisonFields';

export function ConditionBar({
  conditions,
  fixed,
  onChange,
  children,
}: {
  conditions: Comparison[];
  /** What narrows the goods besides. */
  fixed?: { label: string; onDelete: () => void } | undefined;
  onChange: (next: Comparison[]) => void;
  /** Stands before them. */
  children?: ReactNode;
}) {
  const attributes = useQuery({ ...ask(api.catalog.attributes), staleTime: 300_000 });
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const listed = attributes.data?.items ?? [];
  const [begun, setDraft] = useState<Comparison | null>(null);
  const draft: Comparison = begun ?? { attribute: listed[0]?.key ?? '', op: 'is', value: '' };
  const label = (key: string) => listed.find((attribute) => attribute.key === key)?.label ?? key;
  const bare = isBare(draft);
  return (
    <Box wrap row below={2.5} gap={1.5}>
      {children}
      {fixed && <Chip size="small" color="primary" label={fixed.label} onDelete={fixed.onDelete} />}
      {conditions.map((condition, i) => (
        <Chip
          key={i}
          size="small"
          label={`${label(condition.attribute)} ${operators.find(([op]) => op === condition.op)?.[1]} ${condition.value ?? ''}`}
          onDelete={() => onChange(conditions.filter((_, n) => n !== i))}
        />
      ))}
      <Button
        color="secondary"
        sx={{ p: '2px 6px' }}
        disabled={listed.length === 0}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        + Condition
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box
          as="form"
          row
          pad={3.5}
          onSubmit={(event) => {
            event.preventDefault();
            onChange([...conditions, bare ? { attribute: draft.attribute, op: draft.op } : draft]);
            setAnchor(null);
          }}
        >
          <ComparisonFields comparison={draft} attributes={listed} onChange={setDraft} />
          <Button type="submit" variant="contained" disabled={!bare && !draft.value}>
            Add
          </Button>
        </Box>
      </Popover>
    </Box>
  );
}
