/** Our own category tree: made, renamed, moved, put away, with how many goods stand in each. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { Drawer } from '../design/Drawer';
import { Empty, Loaded } from '../design/feedback';
import { CategoryTree } from './CategoryTree';
import { ValueForm } from './ValueForm';
import { PasteValues } from './Values';

const address = z.object({ open: inAddress.number });

export function Categories() {
  const tree = useQuery(ask(api.dictionary.tree));
  const id = tree.data?.id ?? null;
  const values = useQuery({
    ...ask(api.dictionary.values, { params: { id: id ?? 0 } }),
    enabled: id !== null,
  });
  const [{ open }, go] = useAddress(address);
  const chosen = values.data?.items.find((row) => row.id === open);
  const close = () => go({ open: undefined });
  return (
    <>
      <Box as="section" scroll grow pad={[4.5, 6, 6]}>
        <h1>Categories</h1>
        <Box as="p" muted around={[0.5, 0, 3.5]}>
          Our own tree. Where each goes on a channel is said in that place’s category map; a category that is renamed or
          moved keeps its goods and its maps.
        </Box>
        <Box maxWide={860}>
          {id === null ? (
            <Loaded query={tree}>
              {() => (
                <Empty title="No category yet">
                  Paste a tree below, or let it come out of the first file at Intake.
                </Empty>
              )}
            </Loaded>
          ) : (
            <Loaded query={values}>
              {({ items }) =>
                items.length === 0 ? (
                  <Empty title="Nothing is on it yet">Paste the first categories below.</Empty>
                ) : (
                  <CategoryTree attributeId={id} rows={items} open={open} onOpen={(value) => go({ open: value })} />
                )
              }
            </Loaded>
          )}
          {tree.data && <PasteValues attributeId={id ?? undefined} isTree />}
        </Box>
      </Box>
      {chosen && values.data && (
        <Drawer label={chosen.path.join(' / ')} onClose={close}>
          <Box as="h2" textSize={22} below={2}>
            {chosen.path.at(-1)}
          </Box>
          <ValueForm key={JSON.stringify(chosen)} value={chosen} all={values.data.items} isTree onDone={close} />
        </Drawer>
      )}
    </>
  );
}
