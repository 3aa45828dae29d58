/** One EventSource a browser: the tab that holds the lock listens and tells the others. */
import type { QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { isTouched } from './topics';

const name = 'velvet-events';

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
  others.onmessage = ({ data }: MessageEvent<string>) => changed(data);
  void navigator.locks
    .request(name, { signal: stop.signal }, () => {
      source = new EventSource('/api/events');
      source.onmessage = ({ data }: MessageEvent<string>) => {
        const { topic } = JSON.parse(data) as { topic: string };
        others.postMessage(topic);
        changed(topic);
      };
      return new Promise<void>((resolve) => stop.signal.addEventListener('abort', () => resolve()));
    })
    .catch(() => undefined);
  return () => {
    stop.abort();
    source?.close();
    others.close();
    clearTimeout(pending);
  };
}
