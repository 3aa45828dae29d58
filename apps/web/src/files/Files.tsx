/** Files that are no pictures, such as data sheets and manuals: brought in, who names each, and which have not come. */
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type StoredFileAnswer, api } from '@velvet-shelf/contract';
import { Link } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask, askPages } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { SearchBox } from '../design/SearchBox';
import { ShowMore } from '../design/ShowMore';
import { bytes, day, plural } from '../design/words';
import { Arriving } from './Arriving';
import { NotCome, WhichToggle, whichShown } from './Which';
import { fileAddress, fileWays } from './ways';

const filesAddress = z.object({
  search: inAddress.search,
  which: z.enum(whichShown).default('all'),
});
const pageRows = 100;

export function Files() {
  const [{ search, which }, set] = useAddress(filesAddress);
  const files = useInfiniteQuery(
    askPages(api.files.list, {
      query: { limit: pageRows, search, ...(which === 'unused' ? { unused: 'yes' as const } : {}) },
    }),
  );
  const missing = useQuery(ask(api.files.missing));
  const [first] = files.data?.pages ?? [];
  const items = files.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <Box as="section" grow scroll pad={[3.5, 5, 6]} aria-label="Files">
      <Box row align="end" below={3}>
        <h1>Files</h1>
        <Box grow />
        <SearchBox
          label="Search files"
          value={search}
          onSearch={(text) => set({ search: text }, { replace: true })}
          wide={220}
        />
      </Box>
      <Arriving
        ways={fileWays}
        hint="Data sheets, manuals, certificates, many at once. What goods name by a file’s name is theirs as it comes; feeds carry its address."
        onCame={() => undefined}
      />
      <WhichToggle
        label="Files shown"
        which={which}
        counts={{ all: first?.all, unused: first?.unused, missing: missing.data?.items.length }}
        onWhich={(to) => set({ which: to })}
      />
      {which === 'missing' ? (
        <Loaded query={missing}>{({ items: named }) => <NotCome what="file" items={named} />}</Loaded>
      ) : (
        <Loaded query={files}>
          {() =>
            items.length === 0 ? (
              <Empty title="No file here">{search === '' ? 'Drop some above.' : 'None has this in its name.'}</Empty>
            ) : (
              <Held items={items} />
            )
          }
        </Loaded>
      )}
      {which !== 'missing' && <ShowMore of={files} />}
    </Box>
  );
}

function Held({ items }: { items: readonly StoredFileAnswer[] }) {
  const queries = useQueryClient();
  const tell = useTell();
  const remove = useMutation({
    mutationFn: ({ id }: StoredFileAnswer) => call(api.files.remove, { params: { id } }),
    onSuccess: (_, { name }) => {
      tell(`Threw ${name} away`);
      void queries.invalidateQueries();
    },
  });
  return (
    <>
      {remove.error && <ProblemBox error={remove.error} />}
      <DataTable
        label="Files found"
        look={{ surface: 'card' }}
        rows={[...items]}
        keyOf={({ id }) => String(id)}
        columns={[
          { head: 'File', cell: ({ name }) => <a href={fileAddress(name)}>{name}</a>, sortBy: ({ name }) => name },
          {
            head: 'Size',
            cell: (file) => bytes(file.bytes),
            sortBy: (file) => file.bytes,
            look: { className: 'num' },
            headLook: { className: 'num' },
          },
          { head: 'Came', cell: ({ at }) => day(at), sortBy: ({ at }) => at },
          {
            head: 'Named by',
            cell: ({ used, product }) =>
              product === null ? (
                <Box as="span" muted>
                  nothing
                </Box>
              ) : (
                <Link to={`/catalog/product/${product}`}>{plural(used, 'product')}</Link>
              ),
            sortBy: ({ used }) => used,
          },
          {
            head: '',
            id: 'Throw away',
            cell: (file) =>
              file.used === 0 && (
                <Button
                  color="inherit"
                  aria-label={`Throw ${file.name} away`}
                  disabled={remove.isPending}
                  onClick={() => remove.mutate(file)}
                >
                  Throw away
                </Button>
              ),
          },
        ]}
      />
    </>
  );
}
