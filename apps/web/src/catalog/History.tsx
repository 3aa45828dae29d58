/** What happened to a product, newest first. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { Loaded } from '../design/feedback';
import { clock } from '../design/words';

export function History({ id }: { id: number }) {
  const history = useQuery(ask(api.catalog.history, { params: { id } }));
  return (
    <Loaded query={history}>
      {({ items }) => (
        <>
          {items.map((row) => (
            <Box pad={[2, 0]} line="bottom" textSize={12.5} key={row.id}>
              <Box struck={row.undone}>{row.words}</Box>
              <Box small muted>
                {clock(row.at)} · {row.actor}
              </Box>
              {row.fields.slice(0, 8).map((field) => (
                <Box cut key={field.field}>
                  {field.field}:{' '}
                  <Box as="s" muted>
                    {field.before ?? 'empty'}
                  </Box>{' '}
                  → {field.after ?? 'empty'}
                </Box>
              ))}
            </Box>
          ))}
        </>
      )}
    </Loaded>
  );
}
