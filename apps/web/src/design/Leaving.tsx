/** What is not saved is not lost by a wrong click: whoever leaves is asked. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { plural } from './words';

/** `unsaved`: how many there are; `what`: what one of them is called. */
export function Leaving({ unsaved, what }: { unsaved: number; what: string }) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => unsaved > 0 && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (unsaved === 0) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [unsaved]);
  return (
    <Dialog open={blocker.state === 'blocked'} onClose={() => blocker.reset?.()}>
      <DialogContent>
        {plural(unsaved, `${what} is`, `${what}s are`)} not saved. Leaving this page loses{' '}
        {unsaved === 1 ? 'it' : 'them'}.
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
