/** One EventSource a browser: the tab that holds the lock listens and tells the others. */
import type { QueryClient } from '@tanstack/react-query';

const name = 'velvet-events';

export function followEvents(queries: QueryClient): () => void {
  const others = new BroadcastChannel(name);
  let source: EventSource | undefined;
  let pending: ReturnType<typeof setTimeout> | undefined;
  const stop = new AbortController();
  const changed = () => {
    pending ??= setTimeout(() => {
      pending = undefined;
      void queries.invalidateQueries({ refetchType: 'active' });
    }, 150);
  };
  others.onmessage = changed;
  void navigator.locks
    .request(name, { signal: stop.signal }, () => {
      source = new EventSource('/api/events');
      source.onmessage = () => {
        others.postMessage('changed');
        changed();
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
