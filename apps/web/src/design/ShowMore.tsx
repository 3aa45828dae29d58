/** The next page of a list, where there is one. */
import Button from '@mui/material/Button';
import { Box } from './Box';

interface Paged {
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: () => Promise<unknown>;
}

export function ShowMore({ of, words = 'Show more' }: { of: Paged; words?: string }) {
  if (!of.hasNextPage) return null;
  return (
    <Box pad={[2, 0]}>
      <Button disabled={of.isFetchingNextPage} onClick={() => void of.fetchNextPage()}>
        {words}
      </Button>
    </Box>
  );
}
