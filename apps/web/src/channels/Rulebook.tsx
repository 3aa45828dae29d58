/** The channel’s rulebook versions: what each changes, tried on the whole assortment before it is taken. */
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { useRef } from 'react';
import { call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { State } from '../design/State';
import { count, plural } from '../design/words';

export function RulebookPage({ placeId }: { placeId: number }) {
  const params = { id: placeId };
  const input = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const tell = useTell();
  const rulebooks = useQuery({
    queryKey: ['rulebooks', placeId],
    queryFn: () => call(api.channels.rulebooks, { params }),
  });
  const load = useMutation({
    mutationFn: async (file: File) => {
      let rulebook: unknown;
      try {
        rulebook = JSON.parse(await file.text());
      } catch {
        throw new Error(`“${file.name}” is not JSON; nothing was changed`);
      }
      return call(api.channels.loadRulebook, { params, body: { rulebook } });
    },
    onSuccess: ({ version }) => {
      tell(`Loaded version ${version}; it is not in use yet`);
      void queries.invalidateQueries();
    },
  });
  return (
    <div className="scroll grow" style={{ padding: '12px 24px 24px' }}>
      <div className="row">
        <p className="muted grow" style={{ margin: 0 }}>
          A rulebook holds all a channel asks for. Try a new version on your goods before you take it.
        </p>
        <input
          ref={input}
          type="file"
          hidden
          accept=".json,application/json"
          aria-label="Rulebook file"
          onChange={(event) => event.target.files?.[0] && load.mutate(event.target.files[0])}
        />
        <Button variant="outlined" onClick={() => input.current?.click()}>
          Load a version
        </Button>
      </div>
      {load.error && <ProblemBox error={load.error} />}
      <Loaded query={rulebooks}>
        {({ items }) => (
          <>
            {items.map((row) => (
              <Version key={row.id} placeId={placeId} version={row} />
            ))}
          </>
        )}
      </Loaded>
    </div>
  );
}

interface VersionAnswer {
  id: number;
  version: string;
  validFrom: string;
  inUse: boolean;
  summary: string | null;
  categories: number;
  attributes: number;
  changes: { part: string; key: string; kind: string; words: string[] }[];
}

function Version({ placeId, version }: { placeId: number; version: VersionAnswer }) {
  const params = { id: placeId, rulebookId: version.id };
  const queries = useQueryClient();
  const tell = useTell();
  const tryOut = useMutation({ mutationFn: () => call(api.channels.tryRulebook, { params }) });
  /** It does not hold yet: what it would block is seen before it is taken. */
  const isEarly = version.validFrom > new Date().toISOString().slice(0, 10);
  const take = useMutation({
    mutationFn: () => call(api.channels.takeRulebook, { params, body: { early: isEarly } }),
    onSuccess: (effect) => {
      tell(
        `Version ${version.version} is in use; ${plural(effect.becameBlocked, 'listing')} became blocked, ${count(effect.becameReady)} ready`,
      );
      void queries.invalidateQueries();
    },
  });
  return (
    <article
      style={{
        border: '1px solid var(--line)',
        borderRadius: 8,
        background: 'var(--card)',
        padding: '14px 18px',
        marginTop: 12,
      }}
    >
      <div className="row" style={{ gap: 14 }}>
        <h2>Version {version.version}</h2>
        {version.inUse && <State is="live">in use</State>}
        <span className="muted grow">
          holds from {version.validFrom} · {count(version.categories)} categories · {version.attributes} attributes
        </span>
        {!version.inUse && (
          <>
            <Button variant="outlined" disabled={tryOut.isPending} onClick={() => tryOut.mutate()}>
              {tryOut.isPending ? 'Trying…' : 'Try it on our goods'}
            </Button>
            {(!isEarly || tryOut.data) && (
              <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate()}>
                {isEarly ? `Use it now, before ${version.validFrom}` : 'Use this version'}
              </Button>
            )}
          </>
        )}
      </div>
      {isEarly && !version.inUse && (
        <p style={{ margin: '4px 0' }}>
          The channel checks by it from {version.validFrom} on. Taken before, it may block what the channel still takes:{' '}
          {tryOut.data ? 'see below what, and take it if you mean to.' : 'try it on our goods first.'}
        </p>
      )}
      {version.summary && <p style={{ margin: '4px 0' }}>{version.summary}</p>}
      {(tryOut.error ?? take.error) && <ProblemBox error={tryOut.error ?? take.error} />}
      {tryOut.data && (
        <div style={{ background: 'var(--brass-tint)', borderRadius: 6, padding: '10px 14px', margin: '8px 0' }}>
          <b className="serif" style={{ fontSize: 18 }}>
            {plural(tryOut.data.becameBlocked, 'listing')} would be blocked, {count(tryOut.data.becameReady)} would
            become ready
          </b>
          <div className="small muted">Tried on all {count(tryOut.data.listings)} listings, not saved.</div>
          {tryOut.data.causes.map((cause) => (
            <div key={cause.words} className="small">
              {count(cause.listings)} × {cause.words}
            </div>
          ))}
        </div>
      )}
      {version.changes.length > 0 && (
        <table className="plain">
          <tbody>
            {version.changes.map((change) => (
              <tr key={change.part + change.key}>
                <td className="muted" style={{ width: 90 }}>
                  {change.part}
                </td>
                <td style={{ width: 280 }}>{change.key}</td>
                <td style={{ width: 80 }}>{change.kind}</td>
                <td>{change.words.join('; ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </article>
  );
}
