/** Every page that stands, grouped as the work goes; places are pages too. */
import { useQuery } from '@tanstack/react-query';
import { type PlaceAnswer, api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';

export interface Page {
  to: string;
  label: string;
}
export interface PageGroup {
  name: string;
  pages: Page[];
}

const groupsOf = (places: readonly PlaceAnswer[]): PageGroup[] => [
  {
    name: 'Bring in',
    pages: [
      { to: '/intake', label: 'Intake' },
      { to: '/matching', label: 'Matching' },
      { to: '/matching?tab=trust', label: 'Whose word counts' },
    ],
  },
  {
    name: 'Goods',
    pages: [
      { to: '/catalog', label: 'Catalog' },
      { to: '/catalog/sheet', label: 'Sheet' },
      { to: '/catalog/found', label: 'Found in texts' },
      { to: '/catalog/proofread', label: 'Proofread' },
      { to: '/catalog/families', label: 'Families from titles' },
      { to: '/pictures', label: 'Pictures' },
      { to: '/files', label: 'Files' },
    ],
  },
  {
    name: 'Fit',
    pages: [
      { to: '/channels', label: 'Channels and places' },
      { to: '/causes', label: 'Causes' },
      ...places.map(({ id, name }) => ({ to: `/places/${id}`, label: name })),
    ],
  },
  {
    name: 'Send',
    pages: [
      { to: '/listings', label: 'Listings' },
      { to: '/feeds', label: 'Feeds' },
    ],
  },
  {
    name: 'House',
    pages: [
      { to: '/', label: 'Today' },
      { to: '/company', label: 'Company and people' },
      { to: '/attributes', label: 'Attributes' },
      { to: '/categories', label: 'Categories' },
      { to: '/history', label: 'History' },
    ],
  },
];

export function usePages(): PageGroup[] {
  const places = useQuery({ ...ask(api.channels.places), staleTime: 60_000 });
  return groupsOf(places.data?.items ?? []);
}

/** The page one is on: the one whose address is the longest beginning of this one. */
export function pageAt(groups: readonly PageGroup[], address: string): Page | undefined {
  const [path = '/'] = address.split('?');
  const fits = ({ to }: Page) =>
    to === address || (!to.includes('?') && (to === path || (to !== '/' && path.startsWith(`${to}/`))));
  return groups
    .flatMap(({ pages }) => pages)
    .filter(fits)
    .sort((a, b) => b.to.length - a.to.length)[0];
}
