/** Cells that are not saved are not lost by a wrong click: whoever leaves is asked. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { plural } from '../../design/words';

export function Leaving({ cells }: { cells: number }) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => cells > 0 && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (cells === 0) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [cells]);
  return (
    <Dialog open={blocker.state === 'blocked'} onClose={() => blocker.reset?.()}>
      <DialogContent>
        {plural(cells, 'cell is', 'cells are')} not saved. Leaving the sheet loses {cells === 1 ? 'it' : 'them'}.
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={() => blocker.proceed?.()}>
          Leave and lose them
        </Button>
        <Button variant="contained" onClick={() => blocker.reset?.()}>
          Stay
        </Button>
      </DialogActions>
    </Dialog>
  );
}
