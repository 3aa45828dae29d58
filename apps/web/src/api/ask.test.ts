import { QueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ask, askPages, keyOf } from './ask';
import { isTouched } from './topics';

const asked: string[] = [];
beforeEach(() => {
  asked.length = 0;
  vi.stubGlobal('fetch', (address: string) => {
    asked.push(address);
    const next = address.includes('cursor=b') ? null : 'b';
    return Promise.resolve(Response.json({ items: [address], next, total: 2 }));
  });
});
afterEach(() => vi.unstubAllGlobals());

describe('a question to the server', () => {
  it('has a key of its endpoint and of what is asked, so that two pages asking the same share an answer', async () => {
    const queries = new QueryClient();
    await queries.fetchQuery(ask(api.matching.pairs, { query: { search: 'moss' } }));
    await queries.fetchQuery({ ...ask(api.matching.pairs, { query: { search: 'moss' } }), staleTime: 60_000 });
    await queries.fetchQuery(ask(api.matching.pairs, { query: { search: 'slate' } }));
    expect(asked).toEqual(['/api/matches?search=moss', '/api/matches?search=slate']);
  });

  it('is found by its endpoint alone, whatever was asked', async () => {
    const queries = new QueryClient();
    await queries.fetchQuery(ask(api.listings.listing, { params: { id: 1 } }));
    await queries.fetchQuery(ask(api.listings.listing, { params: { id: 2 } }));
    await queries.fetchQuery(ask(api.today.shelf));
    expect(queries.getQueryCache().findAll({ queryKey: keyOf(api.listings.listing) })).toHaveLength(2);
    queries.setQueryData(keyOf(api.listings.listing, { params: { id: 1 } }), { sku: 'written' });
    expect(queries.getQueryData(ask(api.listings.listing, { params: { id: 1 } }).queryKey)).toEqual({ sku: 'written' });
  });

  it('goes on page by page until there is no next', async () => {
    const queries = new QueryClient();
    const options = askPages(api.listings.list, { query: { search: 'moss', limit: 1 } });
    const { pages } = await queries.fetchInfiniteQuery({ ...options, pages: 5 });
    expect(pages).toHaveLength(2);
    expect(asked).toEqual(['/api/listings?search=moss&limit=1', '/api/listings?search=moss&limit=1&cursor=b']);
  });
});

describe('a notice', () => {
  it.each([
    ['batch', api.intake.batch, true],
    ['batch', api.listings.list, false],
    ['feeds', api.feeds.report, true],
    ['listings', api.session.who, false],
    ['matches', api.matching.compare, true],
  ])('about %s has what shows it asked again', (topic, endpoint, isAsked) =>
    expect(isTouched(topic, keyOf(endpoint, {}))).toBe(isAsked),
  );
  it('of goods concerns all that shows goods, and nothing that one looks up once', () => {
    expect(isTouched('catalog', keyOf(api.catalog.product, {}))).toBe(true);
    expect(isTouched('catalog', keyOf(api.catalog.attributes, {}))).toBe(false);
    expect(isTouched('catalog', keyOf(api.session.who, {}))).toBe(false);
  });
  it('of whatever may have changed meanwhile concern all there is', () => {
    expect(isTouched('everything', keyOf(api.session.who, {}))).toBe(true);
  });
});
