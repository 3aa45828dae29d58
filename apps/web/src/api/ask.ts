/** What pages ask for: options of a query made from an endpoint and what it is given, its key too, so that no page makes one up. */
import { type InfiniteData, infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import type { Endpoint } from '@velvet-shelf/contract';
import type { z } from 'zod';
import { type Given, call } from './call';

/** All answers of an endpoint, or those to one question; `mark` tells apart what the question does not say. */
export const keyOf = <E extends Endpoint>(endpoint: E, given?: Given<E>, mark?: unknown): readonly unknown[] => [
  `${endpoint.method} ${endpoint.path}`,
  ...(given === undefined ? [] : [given]),
  ...(mark === undefined ? [] : [mark]),
];

/** One answer. */
export const ask = <E extends Endpoint>(endpoint: E, given: Given<E> = {}, mark?: unknown) =>
  queryOptions({ queryKey: keyOf(endpoint, given, mark), queryFn: () => call(endpoint, given) });

type Paged = { items: unknown[]; next: string | null };

/** A list page by page, from `first` on. */
export const askPages = <E extends Endpoint & { answer: z.ZodType<Paged> }>(
  endpoint: E,
  given: Given<E> & { query: object },
  { first, mark }: { first?: string | undefined; mark?: unknown } = {},
) =>
  infiniteQueryOptions<
    z.output<E['answer']>,
    Error,
    InfiniteData<z.output<E['answer']>>,
    readonly unknown[],
    string | undefined
  >({
    queryKey: keyOf(endpoint, given, [first, mark]),
    queryFn: ({ pageParam }) => call(endpoint, { ...given, query: { ...given.query, cursor: pageParam } }),
    initialPageParam: first,
    getNextPageParam: ({ next }) => next ?? undefined,
  });
