/** The channel’s rulebook versions: what each changes, tried on the whole assortment before it is taken. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type RulebookChangeAnswer, api } from '@velvet-shelf/contract';
import { useRef, useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { DataTable } from '../design/DataTable';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { readJson } from '../design/files';
import { State } from '../design/State';
import { CategorySchema } from './CategorySchema';
import { ComparedCategories } from './ComparedCategories';
import { RulebookFields } from './RulebookFields';
import { TakeOn } from './TakeOn';
import { sayKinds } from './changes';
import { count, day, plural } from '../design/words';

export function RulebookPage({ placeId }: { placeId: number }) {
  const params = { id: placeId };
  const input = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const tell = useTell();
  const rulebooks = useQuery(ask(api.channels.rulebooks, { params }));
  const load = useMutation({
    mutationFn: async (file: File) =>
      call(api.channels.loadRulebook, { params, body: { rulebook: await readJson(file) } }),
    onSuccess: ({ version }) => {
      tell(`Loaded version ${version}; it is not in use yet`);
      void queries.invalidateQueries();
    },
  });
  return (
    <Box grow scroll pad={[3, 6, 6]}>
      <Box row>
        <Box as="p" grow muted around={0}>
          A rulebook holds all a channel asks for. Try a new version on your goods before you take it.
        </Box>
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
      </Box>
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
    </Box>
  );
}

interface VersionAnswer {
  id: number;
  version: string;
  validFrom: string;
  inUse: boolean;
  takeOn: string | null;
  summary: string | null;
  categories: number;
  attributes: number;
  changes: RulebookChangeAnswer[];
}

function Version({ placeId, version }: { placeId: number; version: VersionAnswer }) {
  const params = { id: placeId, rulebookId: version.id };
  const queries = useQueryClient();
  const tell = useTell();
  const [isByCategory, setByCategory] = useState(false);
  const [isRead, setRead] = useState(false);
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
    <Box as="article" framed surface="card" pad={[3.5, 4.5]} above={3}>
      <Box row gap={3.5}>
        <h2>Version {version.version}</h2>
        {version.inUse && <State is="live">in use</State>}
        <Box as="span" grow muted>
          holds from {day(version.validFrom)} · {count(version.categories)} categories · {version.attributes} attributes
        </Box>
        {!version.inUse && (
          <>
            <Button variant="outlined" disabled={tryOut.isPending} onClick={() => tryOut.mutate()}>
              {tryOut.isPending ? 'Trying…' : 'Try it on our goods'}
            </Button>
            {(!isEarly || tryOut.data) && (
              <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate()}>
                {isEarly ? `Use it now, before ${day(version.validFrom)}` : 'Use this version'}
              </Button>
            )}
          </>
        )}
      </Box>
      {isEarly && !version.inUse && (
        <Box as="p" around={[1, 0]}>
          The channel checks by it from {day(version.validFrom)} on. Taken before, it may block what the channel still
          takes: {tryOut.data ? 'see below what, and take it if you mean to.' : 'try it on our goods first.'}
        </Box>
      )}
      {!version.inUse && <TakeOn placeId={placeId} version={version} />}
      {version.summary && (
        <Box as="p" around={[1, 0]}>
          {version.summary}
        </Box>
      )}
      {(tryOut.error ?? take.error) && <ProblemBox error={tryOut.error ?? take.error} />}
      {tryOut.data && (
        <Box surface="brass" rounded pad={[2.5, 3.5]} around={[2, 0]}>
          <Box as="b" serif textSize={18}>
            {plural(tryOut.data.becameBlocked, 'listing')} would be blocked, {count(tryOut.data.becameReady)} would
            become ready
          </Box>
          <Box muted small>
            Tried on all {count(tryOut.data.listings)} listings, not saved.
          </Box>
          {tryOut.data.causes.map((cause) => (
            <Box small key={cause.words}>
              {count(cause.listings)} × {cause.words}
            </Box>
          ))}
        </Box>
      )}
      {isRead ? (
        <RulebookFields placeId={placeId} rulebookId={version.id} version={version.version} />
      ) : (
        <Button color="secondary" sx={{ p: 0, mt: 1 }} onClick={() => setRead(true)}>
          Read and change what it asks for
        </Button>
      )}
      {version.inUse && <CategorySchema placeId={placeId} rulebookId={version.id} />}
      {version.changes.length > 0 && (
        <Box small muted above={2}>
          {sayKinds(version.changes)}
        </Box>
      )}
      {version.changes.length > 0 && (
        <DataTable
          label={`What version ${version.version} changes`}
          rows={version.changes}
          keyOf={({ part, key }) => part + key}
          columns={[
            { head: 'Of', sortBy: ({ part }) => part, cell: ({ part }) => part, look: { muted: true, wide: 90 } },
            { head: 'Which', sortBy: ({ name }) => name, cell: ({ name }) => name, look: { wide: 280 } },
            {
              head: 'Is',
              sortBy: ({ kind }) => kind,
              cell: ({ kind }) => kind,
              look: ({ kind }) => ({
                wide: 90,
                tone: kind === 'tightened' || kind === 'removed' ? 'blocked' : undefined,
              }),
            },
            { head: 'What is different', cell: ({ words }) => words.join('; ') },
          ]}
        />
      )}
      {!version.inUse && version.changes.length > 0 && (
        <Box above={2}>
          {isByCategory ? (
            <ComparedCategories placeId={placeId} rulebookId={version.id} />
          ) : (
            <Button color="secondary" onClick={() => setByCategory(true)}>
              By category of our goods
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}
