/** Loading, problems and empty screens: say what it is and what to do. */
import Alert from '@mui/material/Alert';
import LinearProgress from '@mui/material/LinearProgress';
import Snackbar from '@mui/material/Snackbar';
import type { UseQueryResult } from '@tanstack/react-query';
import { type ReactNode, createContext, useCallback, useContext, useMemo, useState } from 'react';
import { ApiProblem } from '../api/call';

/** `title`: what is said of an error that says nothing itself. */
export function ProblemBox({ error, title = 'Something went wrong' }: { error: unknown; title?: string }) {
  const problem = error instanceof ApiProblem ? error : undefined;
  return (
    <Alert severity="error" sx={{ my: 1 }}>
      <b>{problem?.title ?? title}.</b> {problem?.detail ?? String(error)}
    </Alert>
  );
}

/** Shows a query’s data, or how it stands. */
export function Loaded<T>({ query, children }: { query: UseQueryResult<T>; children: (data: T) => ReactNode }) {
  if (query.data !== undefined) return <>{children(query.data)}</>;
  if (query.error) return <ProblemBox error={query.error} />;
  return <LinearProgress aria-label="Loading" sx={{ mt: 2 }} />;
}

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div style={{ padding: '36px 24px', textAlign: 'center' }}>
      <h2>{title}</h2>
      <p className="muted">{children}</p>
    </div>
  );
}

type Tell = (words: string, kind?: 'success' | 'error') => void;
const TellContext = createContext<Tell>(() => undefined);
export const useTell = () => useContext(TellContext);

/** A line at the foot that says what was done, or why it was not. */
export function TellProvider({ children }: { children: ReactNode }) {
  const [said, setSaid] = useState<{ words: string; kind: 'success' | 'error'; key: number }>();
  const tell = useCallback<Tell>((words, kind = 'success') => setSaid({ words, kind, key: Date.now() }), []);
  const value = useMemo(() => tell, [tell]);
  return (
    <TellContext.Provider value={value}>
      {children}
      <Snackbar
        key={said?.key}
        open={said !== undefined}
        autoHideDuration={said?.kind === 'error' ? 12000 : 5000}
        onClose={(_, why) => why !== 'clickaway' && setSaid(undefined)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
        sx={{ bottom: '38px !important' }}
      >
        <Alert severity={said?.kind ?? 'success'} variant="filled" onClose={() => setSaid(undefined)}>
          {said?.words}
        </Alert>
      </Snackbar>
    </TellContext.Provider>
  );
}
