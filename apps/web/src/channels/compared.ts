/** What the cases of fills can compare. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';

export const useCompared = () =>
  useQuery({
    ...ask(api.channels.compared),
    select: ({ items }) => items.map((row) => ({ ...row, name: row.key })),
    staleTime: 300_000,
  });
