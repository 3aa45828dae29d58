/** The attribute dictionary: what goods have, how it is written, what code knows it by; made, changed, put away. */
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { type DictionaryRow, api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Drawer } from '../design/Drawer';
import { Empty, Loaded } from '../design/feedback';
import { SearchBox } from '../design/SearchBox';
import { count, plural } from '../design/words';
import { AttributeForm } from './AttributeForm';
import { PasteAttributes } from './PasteAttributes';
import { Values } from './Values';
import { computedWords, roleWords, sayType, typeWords } from './words';

const address = z.object({
  search: inAddress.search,
  open: inAddress.number,
  make: z.enum(['one', 'many']).optional(),
});

export function Attributes() {
  const attributes = useQuery(ask(api.dictionary.list));
  const uses = useQuery({ ...ask(api.dictionary.uses), staleTime: 30_000 });
  const [{ search, open, make }, go] = useAddress(address);
  const sought = search.trim().toLowerCase();
  const goodsOf = ({ id }: DictionaryRow) => uses.data?.goods[id] ?? 0;
  const chosen = attributes.data?.items.find(({ id }) => id === open);
  const close = () => go({ open: undefined, make: undefined });
  return (
    <>
      <Box as="section" scroll grow pad={[4.5, 6]}>
        <Box row below={2.5}>
          <Box as="h1" grow>
            Attributes
          </Box>
          <SearchBox
            label="Find an attribute"
            value={search}
            onSearch={(text) => go({ search: text }, { replace: true })}
          />
          <Button variant="outlined" onClick={() => go({ make: 'many', open: undefined })}>
            Paste several
          </Button>
          <Button variant="contained" onClick={() => go({ make: 'one', open: undefined })}>
            New attribute
          </Button>
        </Box>
        <Loaded query={attributes}>
          {({ items }) => {
            const shown = items.filter(
              ({ label, aliases, group, isComputed }) =>
                !isComputed && [label, group, ...aliases].some((text) => text.toLowerCase().includes(sought)),
            );
            return shown.length === 0 ? (
              <Empty title={sought === '' ? 'No attribute yet' : 'No attribute of this name'}>
                Make them here, paste a list, or let them come out of the first file at Intake.
              </Empty>
            ) : (
              <DataTable
                label="Attributes"
                look={{ surface: 'card' }}
                rows={shown}
                keyOf={({ id }) => id}
                chosen={open}
                onChoose={({ id }) => go({ open: id, make: undefined })}
                rowLook={({ putAway }) => ({ faded: putAway })}
                columns={[
                  {
                    head: 'Attribute',
                    sortBy: ({ label }) => label,
                    cell: ({ label, putAway }) => (
                      <button type="button" className="value">
                        {label}
                        {putAway && ' · put away'}
                      </button>
                    ),
                  },
                  { head: 'Group', sortBy: ({ group }) => group, cell: ({ group }) => group },
                  {
                    head: 'Is',
                    sortBy: ({ type }) => typeWords[type],
                    cell: (row) => sayKind(row),
                  },
                  {
                    head: 'Known as',
                    sortBy: ({ role }) => role,
                    look: { muted: true },
                    cell: ({ role }) => role && roleWords(role),
                  },
                  { head: 'Entered', cell: ({ level }) => (level === 'family' ? 'on the family' : 'on each variant') },
                  {
                    head: 'Goods',
                    sortBy: goodsOf,
                    look: { num: true },
                    cell: (row) => (uses.data ? count(goodsOf(row)) : '·'),
                  },
                ]}
              />
            );
          }}
        </Loaded>
      </Box>
      {make === 'one' && (
        <Drawer label="New attribute" onClose={close}>
          <AttributeForm all={attributes.data?.items ?? []} onDone={(id) => go({ open: id, make: undefined })} />
        </Drawer>
      )}
      {make === 'many' && (
        <Drawer label="Paste several attributes" onClose={close}>
          <PasteAttributes known={attributes.data?.items ?? []} onDone={close} />
        </Drawer>
      )}
      {chosen && make === undefined && (
        <Drawer label={chosen.label} onClose={close}>
          <AttributeForm
            key={JSON.stringify(chosen)}
            attribute={chosen}
            goods={goodsOf(chosen)}
            all={attributes.data?.items ?? []}
            alike={(attributes.data?.items ?? []).filter((other) => isAlike(other, chosen))}
            onDone={(id) => go({ open: id })}
          />
          {chosen.type === 'choice' && (
            <>
              <Box as="h3" around={[5, 0, 1.5]}>
                Its list
              </Box>
              <Values attributeId={chosen.id} />
            </>
          )}
        </Drawer>
      )}
    </>
  );
}

/** Whether the values of two are of one kind, so that they can be made one. */
const isAlike = (other: DictionaryRow, { id, type, many, perLanguage, dimension }: DictionaryRow): boolean =>
  other.id !== id &&
  !other.isComputed &&
  other.type === type &&
  other.many === many &&
  other.perLanguage === perLanguage &&
  other.dimension === dimension;

const sayKind = (row: DictionaryRow): string =>
  [
    sayType(row),
    ...(row.perLanguage ? ['by language'] : []),
    ...(row.computed ? [computedWords[row.computed.kind] ?? row.computed.kind] : []),
    ...(row.values === null ? [] : [plural(row.values, 'value')]),
  ].join(', ');
