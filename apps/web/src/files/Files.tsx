/** Files that are no pictures, such as data sheets and manuals: brought in, who names each, and which have not come. */
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
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
import { bytes, count, day, plural } from '../design/words';
import { Arriving } from './Arriving';
import { fileAddress, fileWays } from './ways';

const filesAddress = z.object({
  search: inAddress.search,
  which: z.enum(['all', 'unused', 'missing']).default('all'),
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
      <ToggleButtonGroup
        exclusive
        size="small"
        value={which}
        aria-label="Files shown"
        sx={{ my: 2 }}
        onChange={(_, to: typeof which | null) => to && set({ which: to })}
      >
        <ToggleButton value="all" sx={{ py: 0.3 }}>
          All {first && count(first.all)}
        </ToggleButton>
        <ToggleButton value="unused" sx={{ py: 0.3 }}>
          Named by nothing {first && count(first.unused)}
        </ToggleButton>
        <ToggleButton value="missing" sx={{ py: 0.3 }}>
          Not come yet {missing.data && count(missing.data.items.length)}
        </ToggleButton>
      </ToggleButtonGroup>
      {which === 'missing' ? (
        <Loaded query={missing}>{({ items: named }) => <Missing items={named} />}</Loaded>
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

/** Named by goods, and not here: sent in under their name they are there for all who name them. */
function Missing({ items }: { items: readonly { name: string; goods: number; product: number }[] }) {
  return items.length === 0 ? (
    <Empty title="All have come">Every file that goods name is here.</Empty>
  ) : (
    <DataTable
      label="Files that have not come"
      look={{ surface: 'card' }}
      rows={[...items]}
      keyOf={({ name }) => name}
      columns={[
        { head: 'File', cell: ({ name }) => name },
        {
          head: 'Named by',
          cell: ({ goods, product }) => <Link to={`/catalog/product/${product}`}>{plural(goods, 'product')}</Link>,
        },
      ]}
    />
  );
}
