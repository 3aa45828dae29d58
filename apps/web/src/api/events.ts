/** One EventSource a browser: the tab that holds the lock listens and tells the others. */
import type { QueryClient } from '@tanstack/react-query';
import { isTouched } from './topics';

const name = 'velvet-events';

export function followEvents(queries: QueryClient): () => void {
  const others = new BroadcastChannel(name);
  let source: EventSource | undefined;
  let pending: ReturnType<typeof setTimeout> | undefined;
  const stop = new AbortController();
  const topics = new Set<string>();
  const changed = (topic: string) => {
    topics.add(topic);
    pending ??= setTimeout(() => {
      pending = undefined;
      const told = [...topics];
      topics.clear();
      void queries.invalidateQueries({
        refetchType: 'active',
        predicate: ({ queryKey }) => told.some((one) => isTouched(one, queryKey)),
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
