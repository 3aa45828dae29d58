/** What happens to an account, kept and said. */
import { useQueryClient } from '@tanstack/react-query';
import { type AccountAnswer, api } from '@velvet-shelf/contract';
import { keyOf } from '../api/ask';
import { useTell } from '../design/feedback';

/** Keeps what the server answers, and says it. */
export function useAccount(id: number, words: string) {
  const queries = useQueryClient();
  const tell = useTell();
  return (answer: AccountAnswer) => {
    queries.setQueryData(keyOf(api.accounts.show, { params: { id } }), answer);
    void queries.invalidateQueries();
    tell(words);
  };
}
