import { Box } from '../design/Box';
import { ShowMore } from '../design/ShowMore';
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { askPages } from '../api/ask';
import { call } from '../api/call';
import { useMemo } from 'react';
import { DataTable } from '../design/DataTable';
import { ProblemBox, useTell } from '../design/feedback';
import { clock } from '../design/words';

export function History() {
  const tell = useTell();
  const queries = useQueryClient();
  const actions = useInfiniteQuery(askPages(api.today.history, { query: {} }));
  const undo = useMutation({
    mutationFn: (id: number) => call(api.today.undo, { params: { id } }),
    onSuccess: ({ words, left }) => {
      tell(left.length > 0 ? `${words}. Left as it is: ${left.slice(0, 3).join('; ')}` : words);
      void queries.invalidateQueries();
    },
    onError: (error) => tell(error.message, 'error'),
  });
  const rows = useMemo(() => actions.data?.pages.flatMap(({ items }) => items) ?? [], [actions.data]);
  return (
    <Box as="section" scroll grow pad={[4.5, 6]}>
      <h1>History</h1>
      <Box as="p" muted>
        Everything a person or a job changed, newest first.
      </Box>
      {actions.error && <ProblemBox error={actions.error} />}
      <DataTable
        label="History"
        look={{ surface: 'card' }}
        rows={rows}
        keyOf={({ id }) => id}
        columns={[
          { head: 'When', cell: ({ at }) => clock(at), look: { muted: true, oneLine: true } },
          {
            head: 'What',
            cell: ({ words }) => words,
            look: ({ undone }) => ({ struck: undone, tone: undone ? 'faint' : undefined }),
          },
          { head: 'Who', cell: ({ actor }) => actor, look: { muted: true } },
          {
            head: '',
            id: 'undo',
            look: { num: true },
            cell: (action) =>
              action.canUndo ? (
                <Button
                  color="secondary"
                  sx={{ p: 0 }}
                  disabled={undo.isPending}
                  onClick={() => undo.mutate(action.id)}
                >
                  Undo
                </Button>
              ) : action.undone ? (
                <Box as="span" small muted>
                  undone
                </Box>
              ) : null,
          },
        ]}
      />
      <ShowMore of={actions} words="Show earlier" />
    </Box>
  );
}
