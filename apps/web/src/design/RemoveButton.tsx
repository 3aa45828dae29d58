/** Takes one entry out of a list; the name says which, the button is short. */
import Button from '@mui/material/Button';

export function RemoveButton({ of, onClick }: { of: string; onClick: () => void }) {
  return (
    <Button
      color="inherit"
      aria-label={`Remove ${of}`}
      onClick={({ currentTarget }) => {
        // It goes with what it takes out: Escape still closes what it stood in.
        currentTarget.closest<HTMLElement>('[role=dialog]')?.focus();
        onClick();
      }}
    >
      Remove
    </Button>
  );
}
