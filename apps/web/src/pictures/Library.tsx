/** All pictures: brought in by the pile, placed by their names, each with its measures, who names it, and what is seen on it. */
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { type PictureAnswer, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask, askPages } from '../api/ask';
import { Box } from '../design/Box';
import { Drawer } from '../design/Drawer';
import { Empty, Loaded } from '../design/feedback';
import { ShowMore } from '../design/ShowMore';
import { SearchBox } from '../design/SearchBox';
import { Thumb } from '../design/Thumb';
import { plural } from '../design/words';
import { Arriving } from '../files/Arriving';
import { NotCome, WhichToggle, whichShown } from '../files/Which';
import { Picture } from './Picture';
import { pictureWays } from './ways';
import { Placing } from './Placing';
import './pictures.css';

const libraryAddress = z.object({
  search: inAddress.search,
  which: z.enum(whichShown).default('all'),
  open: inAddress.number,
});
const pageRows = 60;

export function Library() {
  const [{ search, which, open }, set] = useAddress(libraryAddress);
  const [came, setCame] = useState<readonly string[]>([]);
  const pictures = useInfiniteQuery(
    askPages(api.pictures.list, {
      query: { limit: pageRows, search, ...(which === 'unused' ? { unused: 'yes' as const } : {}) },
    }),
  );
  const missing = useQuery({ ...ask(api.pictures.missing), enabled: which === 'missing' });
  const [first] = pictures.data?.pages ?? [];
  const items = pictures.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <>
      <Box as="section" grow scroll pad={[3.5, 5, 6]} aria-label="Pictures">
        <Box row align="end" below={3}>
          <h1>Pictures</h1>
          <Box grow />
          <SearchBox
            label="Search pictures"
            value={search}
            onSearch={(text) => set({ search: text }, { replace: true })}
            wide={220}
          />
        </Box>
        <Arriving
          ways={pictureWays}
          hint="JPEG, PNG, WebP, GIF or TIFF, many at once. What goods name by a file’s name is theirs as it comes; the rest is placed by the numbers in their names."
          onCame={(pictures) => setCame(pictures.map(({ name }) => name))}
        />
        {came.length > 0 && <Placing key={came.join('|')} names={came} onDone={() => setCame([])} />}
        <WhichToggle label="Pictures shown" which={which} counts={first} onWhich={(to) => set({ which: to })} />
        {which === 'missing' ? (
          <Loaded query={missing}>{({ items: named }) => <NotCome what="picture" items={named} />}</Loaded>
        ) : (
          <Loaded query={pictures}>
            {() =>
              items.length === 0 ? (
                <Empty title="No picture here">
                  {search === '' ? 'Drop some above.' : 'None has this in its name.'}
                </Empty>
              ) : (
                <Box
                  as="ul"
                  unmarked
                  columns="repeat(auto-fill, minmax(132px, 1fr))"
                  gap={3.5}
                  aria-label="Pictures found"
                >
                  {items.map((picture) => (
                    <li key={picture.id}>
                      <Tile picture={picture} isOpen={open === picture.id} onOpen={() => set({ open: picture.id })} />
                    </li>
                  ))}
                </Box>
              )
            }
          </Loaded>
        )}
        {which !== 'missing' && <ShowMore of={pictures} />}
      </Box>
      {open !== undefined && (
        <Drawer label="Picture" onClose={() => set({ open: undefined })}>
          <Picture key={open} id={open} onGone={() => set({ open: undefined })} />
        </Drawer>
      )}
    </>
  );
}

function Tile({
  picture: { name, width, height, used },
  isOpen,
  onOpen,
}: {
  picture: PictureAnswer;
  isOpen: boolean;
  onOpen: () => void;
}) {
  return (
    <button type="button" className="tile" aria-current={isOpen} onClick={onOpen}>
      <Thumb name={name} size={120} />
      <Box as="span" block small cut title={name}>
        {name}
      </Box>
      <Box as="span" block small muted>
        {width} × {height} · {used === 0 ? 'named by nothing' : plural(used, 'product')}
      </Box>
    </button>
  );
}
