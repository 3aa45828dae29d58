/** The keys there are, called up by “?”. */
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Box } from '../design/Box';

const keys: { where: string; list: [keys: string, does: string][] }[] = [
  {
    where: 'Everywhere',
    list: [
      ['Ctrl K', 'find goods, or go to a page'],
      ['?', 'this list'],
      ['Esc', 'close what is open; leave a field as it was'],
    ],
  },
  {
    where: 'Rooms',
    list: [
      ['letters, ↑ ↓', 'go to the room that begins so'],
      ['Enter', 'open it'],
    ],
  },
  { where: 'Catalog', list: [['↑ ↓', 'the row above or below, with the drawer open']] },
  {
    where: 'A product’s page',
    list: [
      ['↑ ↓ ← →', 'the place beside it on the rack'],
      ['Enter', 'open the variant there, or make it'],
      ['Space', 'choose several, to do something to all of them'],
      ['Ctrl Enter', 'save, and go to the next product'],
      ['Alt ↑ ↓', 'the product before or after'],
    ],
  },
  {
    where: 'Proofreading',
    list: [
      ['↑ ↓', 'the word above or below'],
      ['1 – 9', 'write that suggestion'],
      ['w', 'it is a word'],
      ['o', 'write another word'],
    ],
  },
  {
    where: 'Matching',
    list: [
      ['s', 'the same goods'],
      ['d', 'different goods'],
      ['↑ ↓', 'the pair above or below'],
    ],
  },
];

export default function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent>
        <Box columns="1fr 1fr" gap={[4, 8]}>
          {keys.map(({ where, list }) => (
            <section key={where}>
              <h3>{where}</h3>
              {list.map(([key, does]) => (
                <Box row pad={[1, 0]} key={key}>
                  <Box as="span" minWide={92} fixed>
                    <kbd>{key}</kbd>
                  </Box>
                  <span>{does}</span>
                </Box>
              ))}
            </section>
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
