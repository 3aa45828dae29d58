/** One EventSource a browser: the tab that holds the lock listens and tells the others. */
import type { QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { isTouched } from './topics';

const name = 'velvet-events';

/** A stream that broke is opened again after this long; one the server refused, later. */
const brokenMilliseconds = 2000;
const refusedMilliseconds = 30_000;

/** Notices as they come, for whoever counts them. */
const notices = new EventTarget();

/** How many notices of a topic came since `mark` was another. */
export function useChangesSince(topic: string, mark: unknown): number {
  const [count, setCount] = useState({ mark, n: 0 });
  useEffect(() => {
    const onNotice = () => setCount((now) => ({ mark, n: now.mark === mark ? now.n + 1 : 1 }));
    notices.addEventListener(topic, onNotice);
    return () => notices.removeEventListener(topic, onNotice);
  }, [topic, mark]);
  return count.mark === mark ? count.n : 0;
}

export function followEvents(queries: QueryClient): () => void {
  const others = new BroadcastChannel(name);
  let source: EventSource | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  let pending: ReturnType<typeof setTimeout> | undefined;
  const stop = new AbortController();
  const topics = new Set<string>();
  const changed = (topic: string) => {
    notices.dispatchEvent(new Event(topic));
    topics.add(topic);
    pending ??= setTimeout(() => {
      pending = undefined;
      const told = [...topics];
      topics.clear();
      void queries.invalidateQueries({
        refetchType: 'active',
        predicate: ({ queryKey }) => told.some((topic) => isTouched(topic, queryKey)),
      });
    }, 150);
  };
  // A page is read before its stream is open, and a stream breaks: it begins with what changed since the last word of it.
  let heard = 0;
  const open = () => {
    const stream = new EventSource(`/api/events?since=${String(Math.ceil(performance.now() - heard))}`);
    stream.onopen = () => {
      heard = performance.now();
    };
    stream.onmessage = ({ data }: MessageEvent<string>) => {
      heard = performance.now();
      const { topic } = JSON.parse(data) as { topic: string };
      others.postMessage(topic);
      changed(topic);
    };
    stream.onerror = () => {
      const wait = stream.readyState === EventSource.CLOSED ? refusedMilliseconds : brokenMilliseconds;
      stream.close();
      again = setTimeout(open, wait);
    };
    source = stream;
  };
  others.onmessage = ({ data }: MessageEvent<string>) => changed(data);
  void navigator.locks
    .request(name, { signal: stop.signal }, () => {
      open();
      return new Promise<void>((resolve) => stop.signal.addEventListener('abort', () => resolve()));
    })
    .catch(() => undefined);
  return () => {
    stop.abort();
    source?.close();
    others.close();
    clearTimeout(pending);
    clearTimeout(again);
  };
}
