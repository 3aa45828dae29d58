/** Who is signed in, and whose shelf it is. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';

export const useWho = () => useQuery({ ...ask(api.session.who), staleTime: 60_000 });
