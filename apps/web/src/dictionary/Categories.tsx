/** Our own category tree: made, renamed, moved, put away, with how many goods stand in each. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { Empty, Loaded } from '../design/feedback';
import { PasteValues, Values } from './Values';

export function Categories() {
  const tree = useQuery(ask(api.dictionary.tree));
  return (
    <Box as="section" scroll grow pad={[4.5, 6, 6]}>
      <h1>Categories</h1>
      <Box as="p" muted around={[0.5, 0, 3.5]}>
        Our own tree. Where each goes on a channel is said in that place’s category map; a category that is renamed or
        moved keeps its goods and its maps.
      </Box>
      <Loaded query={tree}>
        {({ id }) => (
          <Box maxWide={860}>
            {id === null ? (
              <>
                <Empty title="No category yet">
                  Paste a tree below, or let it come out of the first file at Intake.
                </Empty>
                <PasteValues attributeId={undefined} isTree />
              </>
            ) : (
              <Values attributeId={id} isTree />
            )}
          </Box>
        )}
      </Loaded>
    </Box>
  );
}
