import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { call } from '../api/call';
import { ProblemBox, useTell } from '../design/feedback';
import { clock } from '../design/words';

export function History() {
  const tell = useTell();
  const queries = useQueryClient();
  const actions = useInfiniteQuery({
    queryKey: ['actions'],
    queryFn: ({ pageParam }) => call(api.today.history, { query: { cursor: pageParam } }),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next ?? undefined,
  });
  const undo = useMutation({
    mutationFn: (id: number) => call(api.today.undo, { params: { id } }),
    onSuccess: ({ words, left }) => {
      tell(left.length > 0 ? `${words}. Left as it is: ${left.slice(0, 3).join('; ')}` : words);
      void queries.invalidateQueries();
    },
    onError: (error) => tell(error.message, 'error'),
  });
  return (
    <Box as="section" scroll grow pad={[4.5, 6]}>
      <h1>History</h1>
      <Box as="p" muted>
        Everything a person or a job changed, newest first.
      </Box>
      {actions.error && <ProblemBox error={actions.error} />}
      <Box as="table" surface="card" className="plain">
        <thead>
          <tr>
            <th>When</th>
            <th>What</th>
            <th>Who</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {actions.data?.pages.flatMap((page) =>
            page.items.map((action) => (
              <tr key={action.id}>
                <Box as="td" muted oneLine>
                  {clock(action.at)}
                </Box>
                <Box as="td" struck={action.undone} tone={action.undone ? 'faint' : undefined}>
                  {action.words}
                </Box>
                <Box as="td" muted>
                  {action.actor}
                </Box>
                <Box as="td" num>
                  {action.canUndo ? (
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
                  ) : null}
                </Box>
              </tr>
            )),
          )}
        </tbody>
      </Box>
      {actions.hasNextPage && <Button onClick={() => void actions.fetchNextPage()}>Show earlier</Button>}
    </Box>
  );
}
