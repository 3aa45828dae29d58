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
    <section className="grow scroll" style={{ padding: '18px 24px' }}>
      <h1>History</h1>
      <p className="muted">Everything a person or a job changed, newest first.</p>
      {actions.error && <ProblemBox error={actions.error} />}
      <table className="plain" style={{ background: 'var(--card)' }}>
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
            page.items.map((page) => (
              <tr key={page.id}>
                <td className="muted" style={{ whiteSpace: 'nowrap' }}>
                  {clock(page.at)}
                </td>
                <td style={page.undone ? { textDecoration: 'line-through', color: 'var(--ink-3)' } : {}}>
                  {page.words}
                </td>
                <td className="muted">{page.actor}</td>
                <td className="num">
                  {page.canUndo ? (
                    <Button
                      color="secondary"
                      sx={{ p: 0 }}
                      disabled={undo.isPending}
                      onClick={() => undo.mutate(page.id)}
                    >
                      Undo
                    </Button>
                  ) : page.undone ? (
                    <span className="muted small">undone</span>
                  ) : null}
                </td>
              </tr>
            )),
          )}
        </tbody>
      </table>
      {actions.hasNextPage && <Button onClick={() => void actions.fetchNextPage()}>Show earlier</Button>}
    </section>
  );
}
