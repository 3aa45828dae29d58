/** Our category tree: moved by drag and by keys, each with what it requires and how many goods stand in it. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ListValueAnswer, api } from '@velvet-shelf/contract';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { ProblemBox, useTell } from '../design/feedback';
import { type Place, Tree } from '../design/Tree';
import { count } from '../design/words';
import { labelOf } from './ValueForm';
import { sayOthers } from './words';

export function CategoryTree({
  attributeId,
  rows,
  open,
  onOpen,
}: {
  attributeId: number;
  rows: readonly ListValueAnswer[];
  open: number | undefined;
  onOpen: (id: number) => void;
}) {
  const attributes = useQuery(ask(api.dictionary.list));
  const queries = useQueryClient();
  const tell = useTell();
  const move = useMutation({
    mutationFn: ({ row, to }: { row: ListValueAnswer; to: Place }) =>
      call(api.dictionary.moveValue, { params: { id: row.id }, body: { ...to, wasBelow: row.parentId } }),
    onSuccess: (_, { row }) => tell(`Moved ${row.path.at(-1) ?? ''}`),
    onSettled: () =>
      queries.invalidateQueries({ queryKey: keyOf(api.dictionary.values, { params: { id: attributeId } }) }),
  });
  return (
    <>
      <Tree
        label="Categories"
        rows={rows}
        nameOf={({ path, hidden }) => `${path.at(-1) ?? ''}${hidden ? ' · put away' : ''}`}
        faded={({ hidden }) => hidden}
        heads={['Category', 'Also written', 'Requires', 'Goods']}
        widths="minmax(90px, 0.6fr) minmax(90px, 0.6fr) 60px"
        cells={(row) => [
          <Box as="span" small muted key="others">
            {sayOthers(row)}
          </Box>,
          <Box as="span" small muted key="requires">
            {row.requires.map((key) => labelOf(attributes.data?.items, key)).join(', ')}
          </Box>,
          count(row.goods),
        ]}
        chosen={open}
        onChoose={({ id }) => onOpen(id)}
        onMove={(row, to) => move.mutate({ row, to })}
      />
      {move.error && <ProblemBox error={move.error} />}
      <Box as="p" small muted around={[1.5, 0, 0]}>
        Drag a category to its place, or move it with Alt and the arrows. Enter shows what is said of it.
      </Box>
    </>
  );
}
