/** Whose shelf this is, as everybody who is signed in is told. */
import { useQuery } from '@tanstack/react-query';
import { type Company, api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';

export const useWho = () => useQuery({ ...ask(api.session.who), staleTime: 60_000 });

const nobody: Company = { name: '', languages: [], currencies: [], timeZone: 'UTC' };

export const useCompany = (): Company => useWho().data?.company ?? nobody;
