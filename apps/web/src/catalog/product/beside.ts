/** Where one stands in the view one came from: the product before, the next one, and the way back. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useMemo } from 'react';
import { useLocation } from 'react-router';
import { writeAddress } from '../../api/address';
import { ask } from '../../api/ask';
import { count } from '../../design/words';
import { viewOf } from '../view';
import type { ProductAddress } from './address';

export interface Beside {
  before: string | undefined;
  next: string | undefined;
  /** “12 of 118”. */
  words: string | undefined;
  back: string;
}

/** Columns that families can be sorted by. */
const familySorts = /^-?(?:family|sku|title|brand|gtin|state|price|stock|complete|category)$/;

export function useBeside(id: number, address: ProductAddress): Beside {
  const { search } = useLocation();
  const { list } = address;
  const view = useMemo(() => {
    const whole = viewOf(address);
    return { ...whole, show: 'families' as const, sort: familySorts.test(whole.sort) ? whole.sort : 'family' };
  }, [address]);
  // Whoever goes through a list keeps it, whatever is mended on the way.
  const opened = useQuery({ ...ask(api.catalog.open, { body: view }, 'beside'), enabled: list, staleTime: 'static' });
  const token = opened.data?.token ?? '';
  const found = useQuery({
    ...ask(api.catalog.beside, { params: { token, id } }),
    enabled: list && token !== '',
    placeholderData: keepPreviousData,
    staleTime: 'static',
  });
  const addressOf = (product: number | null | undefined) =>
    product === null || product === undefined
      ? undefined
      : `/catalog/product/${product}?${writeAddress(search, { variant: undefined, level: undefined, at: undefined, down: undefined, across: undefined })}`;
  const { at, of, before, next } = found.data ?? { at: null, of: 0, before: null, next: null };
  const grid = writeAddress(search, {
    ...{ list: undefined, variant: undefined, level: undefined, tab: undefined, shows: undefined },
    ...{ down: undefined, across: undefined, at: undefined, open: String(id) },
  });
  return {
    before: addressOf(before),
    next: addressOf(next),
    words: at === null ? undefined : `${count(at + 1)} of ${count(of)}`,
    back: `/catalog?${grid}`,
  };
}
