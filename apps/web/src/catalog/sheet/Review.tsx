/** The whole change before it is saved, cell by cell: what cannot be saved first, then what somebody changed meanwhile. */
import Button from '@mui/material/Button';
import { Box } from '../../design/Box';
import { DataTable } from '../../design/DataTable';
import { plural } from '../../design/words';

interface ReviewedCell {
  key: string;
  goods: string;
  head: string;
  before: string;
  after: string;
  fault: string | undefined;
  /** It holds something else than when it was written. */
  moved: boolean;
}

export function Review({
  cells,
  isRefused,
  effect,
  onPutBack,
  onInsist,
}: {
  cells: readonly ReviewedCell[];
  /** They were sent, and somebody was faster. */
  isRefused: boolean;
  /** What saving would do to listings, in words. */
  effect: string | undefined;
  onPutBack: (keys: readonly string[]) => void;
  onInsist: (keys: readonly string[]) => void;
}) {
  const moved = cells.filter((cell) => cell.moved).map(({ key }) => key);
  const bad = cells.filter(({ fault }) => fault !== undefined).map(({ key }) => key);
  const order = (cell: ReviewedCell) => (cell.fault !== undefined ? 0 : cell.moved ? 1 : 2);
  return (
    <Box col gap={3}>
      <Box as="h2" padRight={8}>
        {plural(cells.length, 'cell')} to save
      </Box>
      {effect !== undefined && (
        <Box small muted role="status">
          {effect}
        </Box>
      )}
      {moved.length > 0 && (
        <Box surface="advice" pad={[2, 3]} rounded small role="alert">
          {isRefused && 'Nothing was saved. '}
          {plural(moved.length, 'cell was', 'cells were')} changed by somebody since you wrote: “now” says what they
          hold.
          <Box row above={1}>
            <Button color="secondary" onClick={() => onInsist(moved)}>
              Write mine over them
            </Button>
            <Button color="secondary" onClick={() => onPutBack(moved)}>
              Take theirs
            </Button>
          </Box>
        </Box>
      )}
      {bad.length > 0 && (
        <Box row small>
          <span>{plural(bad.length, 'cell')} cannot be saved.</span>
          <Button color="secondary" onClick={() => onPutBack(bad)}>
            Put them back
          </Button>
        </Box>
      )}
      <DataTable
        label="Cells to save"
        rows={[...cells].sort((a, b) => order(a) - order(b))}
        keyOf={({ key }) => key}
        columns={[
          { head: 'Goods', cell: ({ goods }) => goods },
          { head: 'Column', cell: ({ head }) => head },
          {
            head: 'From and to',
            cell: ({ before, after, fault }) => (
              <>
                <Box as="s" muted>
                  {before.slice(0, 120) || 'empty'}
                </Box>{' '}
                → {after.slice(0, 120) || 'empty'}
                {fault !== undefined && (
                  <Box small tone="blocked">
                    {fault}
                  </Box>
                )}
              </>
            ),
          },
          {
            head: '',
            id: 'Put back',
            cell: ({ key, goods, head }) => (
              <Button color="inherit" aria-label={`Put ${head} of ${goods} back`} onClick={() => onPutBack([key])}>
                Put back
              </Button>
            ),
          },
        ]}
      />
    </Box>
  );
}
