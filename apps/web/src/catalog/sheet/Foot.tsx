/** What is chosen and what signs mean, and below it what is written and not saved. */
import Button from '@mui/material/Button';
import { Box } from '../../design/Box';
import { ProblemBox } from '../../design/feedback';
import { count, plural } from '../../design/words';

export function Foot({ cells, sum, words }: { cells: number; sum: string | undefined; words: string | undefined }) {
  return (
    <Box row small muted pad={[1.5, 5]} gap={4} surface="card" line="top">
      <span role="status">
        {plural(cells, 'cell')} chosen{sum !== undefined && ` · together ${sum}`}
      </span>
      <span>
        <i className="cell-key changed" />
        changed
      </span>
      <span>
        <i className="cell-key bad" />
        cannot be saved
      </span>
      <span>
        <i className="cell-key moved" />
        changed by somebody meanwhile
      </span>
      <span>
        <i className="cell-key pinned" />
        pinned
      </span>
      <i>leaning: the family’s, or by a fill</i>
      {words !== undefined && (
        <Box as="span" toEnd>
          {words}
        </Box>
      )}
    </Box>
  );
}

export function Unsaved({
  cells,
  products,
  faults,
  moved,
  error,
  isSaving,
  onUndo,
  onReview,
  onSave,
}: {
  cells: number;
  products: number;
  /** Cells that cannot be saved, and those that hold something else now. */
  faults: number;
  moved: number;
  error: unknown;
  isSaving: boolean;
  onUndo: () => void;
  onReview: () => void;
  /** Undefined while nothing can be saved. */
  onSave: (() => void) | undefined;
}) {
  const notes = [
    faults > 0 && `${plural(faults, 'cell')} cannot be saved and ${faults === 1 ? 'stays' : 'stay'} here until mended`,
    moved > 0 && `${plural(moved, 'cell was', 'cells were')} changed by somebody meanwhile: look at the review`,
  ];
  return (
    <Box row surface="brass" pad={[3, 6]} line="top" gap={5} role="region" aria-label="What is not saved yet">
      <Box grow>
        <Box as="strong" serif textSize={20}>
          {plural(cells, 'cell')} in {plural(products, 'product')}
        </Box>
        <Box small muted>
          {notes.filter(Boolean).join(' · ')}
        </Box>
        {error !== null && <ProblemBox error={error} />}
      </Box>
      <Button variant="outlined" color="inherit" onClick={onUndo}>
        Undo
      </Button>
      <Button variant="outlined" color="inherit" onClick={onReview}>
        Review, cell by cell
      </Button>
      <Button variant="contained" disabled={onSave === undefined} onClick={onSave}>
        {isSaving ? 'Saving…' : `Save ${count(cells - faults)}`}
      </Button>
    </Box>
  );
}
