/** What is kept put away, and taken back. */
import Button from '@mui/material/Button';

export interface PutAwayChange {
  to: { putAway: boolean };
  was: { putAway: boolean };
}

export function PutAway({
  of: { name, putAway },
  disabled,
  onChange,
}: {
  of: { name: string; putAway: boolean };
  disabled: boolean;
  onChange: (change: PutAwayChange) => void;
}) {
  const verb = putAway ? 'Take back' : 'Put away';
  return (
    <Button
      color="inherit"
      aria-label={`${verb} ${name}`}
      disabled={disabled}
      onClick={() => onChange({ to: { putAway: !putAway }, was: { putAway } })}
    >
      {verb}
    </Button>
  );
}
