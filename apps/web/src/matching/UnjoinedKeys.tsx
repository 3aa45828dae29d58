/** Identifiers that join nothing: they stand on several articles of one source, or the articles that have them say otherwise. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { DataTable } from '../design/DataTable';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { count, plural } from '../design/words';

const kinds = { gtin: 'GTIN', mpn: 'brand + MPN', number: 'article number' } as const;

export function UnjoinedKeys() {
  const keys = useQuery(ask(api.matching.unjoined));
  return (
    <Box scroll grow pad={[3.5, 6]}>
      <Loaded query={keys}>
        {(data) =>
          data.items.length === 0 ? (
            <Empty title="Every identifier stands on one article of each source">There is nothing to correct.</Empty>
          ) : (
            <>
              <Box as="p" above={0}>
                <b>{plural(data.total, 'identifier joins', 'identifiers join')} nothing.</b> Correct the wrong one, in
                the supplier’s file or by an edit; the others join by themselves.
                {data.total > data.items.length && ` The first ${count(data.items.length)} are shown.`}
              </Box>
              <DataTable
                label="Identifiers that join nothing"
                look={{ surface: 'card' }}
                rows={data.items}
                keyOf={({ kind, key }) => `${kind} ${key}`}
                columns={[
                  {
                    head: 'Identifier',
                    sortBy: ({ key }) => key,
                    look: { oneLine: true },
                    cell: ({ kind, key }) => (
                      <>
                        <Box as="span" small muted>
                          {kinds[kind]}
                        </Box>{' '}
                        {key}
                      </>
                    ),
                  },
                  {
                    head: 'Why',
                    sortBy: ({ reason }) => reason,
                    look: { small: true, maxWide: 260 },
                    cell: ({ reason, records }) => (
                      <>
                        {reason}
                        <JoinAnyway products={records.flatMap(({ productId }) => productId ?? [])} />
                      </>
                    ),
                  },
                  {
                    head: 'Stands on',
                    cell: ({ kind, records }) =>
                      records.map((record) => (
                        <Box row gap={2} key={record.recordId}>
                          <Box as="span" small muted wide={140}>
                            {record.supplier}
                          </Box>
                          <Box as="span" wide={150}>
                            {record.key}
                          </Box>
                          {record.productId && (
                            <Box
                              as={Link}
                              cut
                              className="target"
                              to={`/catalog?all=yes&open=${record.productId}&attribute=${kind === 'gtin' ? 'gtin' : 'mpn'}`}
                            >
                              {record.title ?? 'open'}
                            </Box>
                          )}
                        </Box>
                      )),
                  },
                ]}
              />
            </>
          )
        }
      </Loaded>
    </Box>
  );
}

/** Two goods that a key would join, and something speaks against it: a person may know better. */
function JoinAnyway({ products }: { products: number[] }) {
  const queries = useQueryClient();
  const tell = useTell();
  const [a, b, ...others] = [...new Set(products)];
  const join = useMutation({
    mutationFn: (pair: { a: number; b: number }) =>
      call(api.matching.decide, { body: { verdict: 'same', pairs: [pair], sure: true } }),
    onSuccess: ({ done, left }) => {
      tell(done > 0 ? '1 pair joined' : `Not joined: ${left[0] ?? ''}`, done > 0 ? 'success' : 'error');
      void queries.invalidateQueries();
    },
  });
  if (a === undefined || b === undefined || others.length > 0) return null;
  return (
    <div>
      <Button color="secondary" sx={{ p: 0 }} disabled={join.isPending} onClick={() => join.mutate({ a, b })}>
        They are the same goods
      </Button>
      {join.error && <ProblemBox error={join.error} />}
    </div>
  );
}
