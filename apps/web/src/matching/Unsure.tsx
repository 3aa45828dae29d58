/** Two goods that were not joined because each has a GTIN of its own: whoever is sure joins them all the same. */
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';

export function Unsure({ words, isBusy, onSure }: { words: string; isBusy: boolean; onSure: () => void }) {
  return (
    <Alert
      severity="warning"
      sx={{ mt: 1 }}
      action={
        <Button color="inherit" disabled={isBusy} onClick={onSure}>
          Join all the same
        </Button>
      }
    >
      These two were not joined: {words}. Goods with two GTINs are usually two goods.
    </Alert>
  );
}
