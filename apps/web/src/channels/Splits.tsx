/** Goods of one of our categories that stand elsewhere: by condition, the first that holds; tried on all goods before it is kept. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type CategoryRow, type CategorySplit, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { ConditionTree, plainCondition } from '../catalog/ConditionTree';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { RemoveButton } from '../design/RemoveButton';
import { plural, sayBecoming } from '../design/words';
import { CategoryPick } from './CategoryPick';
import type { ChannelCategory } from './ChannelTree';
import { useCompared } from './compared';

const plain = (splits: readonly CategorySplit[]): CategorySplit[] =>
  splits.map(({ condition, ...rest }) => ({ ...rest, condition: plainCondition(condition) }));

export function Splits({
  placeId,
  row,
  market,
  options,
}: {
  placeId: number;
  row: CategoryRow;
  /** One market alone; empty: all. */
  market: string;
  options: readonly ChannelCategory[];
}) {
  const params = { id: placeId };
  const attributes = useCompared().data ?? [];
  const [splits, setSplits] = useState<CategorySplit[]>(row.splits);
  const queries = useQueryClient();
  const tell = useTell();
  const to = plain(splits);
  const isChanged = JSON.stringify(to) !== JSON.stringify(plain(row.splits));
  const isWhole = splits.every(({ target }) => target !== '');
  const maps = [{ category: row.category, target: row.target, splits: to }];
  const tried = useQuery({
    ...ask(api.channels.tryCategories, { params, body: { maps, market } }),
    enabled: isWhole && splits.length + row.splits.length > 0,
    retry: false,
  });
  const save = useMutation({
    mutationFn: () => call(api.channels.mapCategory, { params, body: { maps, market } }),
    onSuccess: (effect) => {
      tell(`Kept; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
    },
  });
  const counts = isWhole && tried.data ? (tried.data.splits[row.category] ?? []) : undefined;
  const set = (at: number, next: Partial<CategorySplit>) =>
    setSplits(splits.map((split, i) => (i === at ? { ...split, ...next } : split)));
  const first = attributes[0]?.key ?? '';
  const error = save.error ?? tried.error;
  return (
    <Box as="section" above={3} aria-label="Some of them elsewhere">
      {splits.map((split, i) => (
        <Box key={i} framed rounded pad={3} below={2} surface="card">
          <Box row below={2}>
            <Box as="b" grow small>
              {i === 0 ? 'Where' : 'Else where'}
            </Box>
            {counts && (
              <Box as="span" small muted>
                {plural(counts[i] ?? 0, 'listing')}
              </Box>
            )}
            <RemoveButton of={`split ${i + 1}`} onClick={() => setSplits(splits.filter((_, n) => n !== i))} />
          </Box>
          <ConditionTree
            label={`Split ${i + 1}`}
            condition={split.condition}
            attributes={attributes}
            onChange={(condition) => set(i, { condition })}
          />
          <Box above={2}>
            <CategoryPick
              label={`Category of split ${i + 1}`}
              placeholder="they stand in …"
              options={options}
              value={options.find(({ path }) => path === split.target) ?? null}
              onPick={(target) => set(i, { target: target ?? '' })}
            />
          </Box>
        </Box>
      ))}
      <Button
        color="secondary"
        onClick={() =>
          setSplits([...splits, { condition: { all: [{ attribute: first, op: 'is', value: '' }] }, target: '' }])
        }
      >
        Some of them elsewhere
      </Button>
      {error && <ProblemBox error={error} />}
      {isChanged && (
        <Box row above={2} pad={[2, 3]} surface="brass" rounded>
          <Box grow small role="status">
            {!isWhole ? 'Choose where each of them stands.' : tried.data ? sayBecoming(tried.data) : 'Trying…'}
          </Box>
          <Button color="inherit" onClick={() => setSplits(row.splits)}>
            Put back
          </Button>
          <Button variant="contained" disabled={!isWhole || save.isPending} onClick={() => save.mutate()}>
            Keep it
          </Button>
        </Box>
      )}
    </Box>
  );
}
