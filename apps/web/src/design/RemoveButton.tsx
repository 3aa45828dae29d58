/** Takes one entry out of a list; the name says which, the button is short. */
import Button from '@mui/material/Button';

export function RemoveButton({ of, onClick }: { of: string; onClick: () => void }) {
  return (
    <Button color="inherit" aria-label={`Remove ${of}`} onClick={onClick}>
      Remove
    </Button>
  );
}
