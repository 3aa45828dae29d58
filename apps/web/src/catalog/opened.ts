/** A view as it is opened: its first rows at once, how many it has as soon as they are counted. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type GridRow, type View, api } from '@velvet-shelf/contract';
import { ask, keyOf } from '../api/ask';
import { call } from '../api/call';

export interface OpenedView {
  token: string;
  /** Undefined until they are counted. */
  rows: number | undefined;
  first: readonly (GridRow | null)[];
  /** Attributes that the first rows have, as they were asked for. */
  columns: string;
  isLike: boolean;
}

interface Opening {
  /** Columns of attributes the first rows are to have; others do not open the view again. */
  columns?: string;
  /** Tells apart views that are the same and are opened apart. */
  mark?: unknown;
}

export function useOpenedView(view: View, { columns = '', mark }: Opening = {}) {
  const opened = useQuery({
    queryKey: keyOf(api.catalog.open, { body: view }, mark),
    queryFn: async () => ({ ...(await call(api.catalog.open, { body: { ...view, columns } })), columns }),
    placeholderData: keepPreviousData,
    // Whoever looks at a list keeps its rows, whatever changes: it is opened again when it is asked for.
    staleTime: ({ state }) => (state.data?.rows === 0 ? 0 : 'static'),
    gcTime: 0,
  });
  const token = opened.data?.token ?? '';
  const sized = useQuery({
    ...ask(api.catalog.size, { params: { token } }),
    enabled: opened.data?.rows === null,
    staleTime: 'static',
  });
  const data: OpenedView | undefined = opened.data && {
    ...opened.data,
    rows: opened.data.rows ?? sized.data?.rows,
  };
  return { data, error: opened.error ?? sized.error };
}
