/** The head of the sheet: what it shows, and what is done to all of it or to what is chosen. */
import Button from '@mui/material/Button';
import { type SheetColumn, mostSheetRows } from '@velvet-shelf/contract';
import type { CleanUp } from '@velvet-shelf/core/catalog';
import { Link, useLocation } from 'react-router';
import { Box } from '../../design/Box';
import { count, plural } from '../../design/words';
import { CleanUpMenu } from './CleanUpMenu';
import { SlotMenu } from './SlotMenu';

export function SheetHead({
  total,
  reading,
  onlyBlocking,
  onOnlyBlocking,
  all,
  slots,
  onSlots,
  onFind,
  onClean,
}: {
  /** Variants of the view. */
  total: number;
  /** How many rows are being read; 0 once they are there. */
  reading: number;
  onlyBlocking: boolean;
  onOnlyBlocking: (to: boolean) => void;
  all: readonly SheetColumn[];
  slots: readonly string[];
  onSlots: (next: string[]) => void;
  onFind: () => void;
  onClean: (cleanUp: CleanUp) => void;
}) {
  const { search: here } = useLocation();
  return (
    <Box row pad={[3, 5, 2]} align="end">
      <Box grow>
        <Box small muted>
          <Link to={`/catalog${here}`}>Catalog</Link> ·{' '}
          {total > mostSheetRows
            ? `the first ${count(mostSheetRows)} of ${plural(total, 'variant')}: narrow the view to see the others`
            : plural(total, 'variant')}
          {reading > 0 && ` · reading ${count(reading)}…`}
        </Box>
        <h1>Sheet</h1>
      </Box>
      <Button
        variant={onlyBlocking ? 'contained' : 'outlined'}
        {...(onlyBlocking ? {} : { color: 'inherit' as const })}
        aria-pressed={onlyBlocking}
        title="Goods with a value missing or wrong that keeps a listing back"
        onClick={() => onOnlyBlocking(!onlyBlocking)}
      >
        Only what blocks
      </Button>
      <SlotMenu all={all} shown={slots} onChange={onSlots} />
      <Button variant="outlined" color="inherit" onClick={onFind}>
        Find and replace
      </Button>
      <CleanUpMenu onClean={onClean} />
    </Box>
  );
}
