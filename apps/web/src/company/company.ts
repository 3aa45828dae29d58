/** Whose shelf this is, as everybody who is signed in is told. */
import type { Company } from '@velvet-shelf/contract';
import { useWho } from '../session/who';

const nobody: Company = {
  name: '',
  market: '',
  languages: [],
  currencies: [],
  timeZone: 'UTC',
  pricesWithVat: true,
  manyValues: 20,
};

export const useCompany = (): Company => useWho().data?.company ?? nobody;
