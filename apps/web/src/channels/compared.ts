/** What the cases of fills can compare. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { call } from '../api/call';

export const useCompared = () =>
  useQuery({
    queryKey: ['fills', 'compared'],
    queryFn: async () => (await call(api.channels.compared)).items.map((row) => ({ ...row, name: row.key })),
    staleTime: 300_000,
  });
