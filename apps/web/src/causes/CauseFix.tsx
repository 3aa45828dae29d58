/** One cause with the fix for it: edited in place, its effect tried on every listing it touches before it is saved. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type CauseAnswer, type CauseDetail, type Effect, type Fix, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Loaded, ProblemBox, useTell } from '../design/feedback';
import { DataTable } from '../design/DataTable';
import { State } from '../design/State';
import { useSettled } from '../design/settled';
import { count, plural, sayBecoming } from '../design/words';
import { Exemptions } from '../channels/Exemptions';
import { Cells } from './Cells';
import { ChooseFill, ChooseOption } from './Choose';
import { FamiliesFix } from './FamiliesFix';

export function CauseFix({ cause, position, onNext }: { cause: CauseAnswer; position: string; onNext: () => void }) {
  const detail = useQuery(ask(api.causes.cause, { query: { key: cause.key } }, cause.touched));
  return (
    <Box as="section" col grow surface="card">
      <Loaded query={detail}>{(data) => <Page cause={data} position={position} onNext={onNext} />}</Loaded>
    </Box>
  );
}

function Page({ cause, position, onNext }: { cause: CauseDetail; position: string; onNext: () => void }) {
  const { remedy } = cause;
  // Of two that are as good as each other none is chosen for anybody.
  const [first, second] = remedy.kind === 'choose' ? remedy.suggested : [];
  const best = first && first.score !== second?.score ? first.value : undefined;
  const [fix, setFix] = useState<Fix | undefined>(best === undefined ? undefined : { kind: 'choose', value: best });
  const queries = useQueryClient();
  const tell = useTell();
  const settled = useSettled(fix);
  // Cells are tried once she has stopped typing; what is chosen is tried at once.
  const asked = fix?.kind === 'cells' ? settled : fix;
  const tried = useQuery({
    ...ask(api.causes.tryFix, { query: { key: cause.key }, body: asked as Fix }, cause.touched),
    enabled: asked !== undefined,
    staleTime: 0,
    retry: false,
  });
  const save = useMutation({
    mutationFn: (body: Fix) => call(api.causes.fix, { query: { key: cause.key }, body }),
    onSuccess: (effect) => {
      tell(sayEffect(effect, true));
      setFix(undefined);
      void queries.invalidateQueries();
      if (effect.listingsChanged > 0) onNext();
    },
  });
  const question = remedy.kind === 'choose' ? remedy.question : cause.words;
  return (
    <>
      <Box grow scroll pad={[4.5, 6]}>
        <Box small muted>
          {position}
        </Box>
        <Box as="h2" around={[0.5, 0, 1]}>
          {question}
        </Box>
        <Box muted below={3}>
          {plural(cause.touched, 'listing')} touched
          {cause.severity === 'blocker'
            ? `; ${count(cause.unlocks)} of them wait for nothing else`
            : '; advice only, none is blocked by it'}
          .
        </Box>
        {remedy.kind === 'choose' && (
          <ChooseOption
            remedy={remedy}
            value={fix?.kind === 'choose' ? fix.value : undefined}
            onChoose={(value) => setFix({ kind: 'choose', value })}
          />
        )}
        {remedy.kind === 'fill' && <ChooseFill remedy={remedy} onChoose={setFix} />}
        {remedy.kind === 'cells' && remedy.fit && (
          <label className="choice">
            <input
              type="checkbox"
              checked={fix?.kind === 'fit'}
              onChange={(event) => setFix(event.target.checked ? { kind: 'fit' } : undefined)}
            />
            <span>
              <b>{remedy.fit.words}</b>
              <Box as="span" small muted block>
                One change for all of them; the catalog keeps its own text.
              </Box>
            </span>
          </label>
        )}
        {remedy.kind === 'families' && <FamiliesFix remedy={remedy} />}
        {remedy.kind === 'assortment' && (
          <p>
            {remedy.words} <Link to={`/places/${remedy.placeId}/goods`}>Which goods it gets</Link>
          </p>
        )}
        {remedy.kind === 'none' && <p>{remedy.words}</p>}
        {cause.exempt.map((each) => (
          <Box key={`${each.accountId} ${each.attribute}`} above={2}>
            <Exemptions {...each} />
          </Box>
        ))}
        {remedy.kind === 'cells' && remedy.attribute !== null ? (
          <Cells
            cause={cause}
            remedy={remedy}
            onChange={(cells) => setFix(cells.length > 0 ? { kind: 'cells', cells } : undefined)}
          />
        ) : (
          <Touched cause={cause} />
        )}
        {save.error && <ProblemBox error={save.error} />}
      </Box>
      <div className="effect">
        <Box grow>
          <Box serif textSize={20} role="status">
            {fix === undefined
              ? 'Nothing chosen yet'
              : fix !== asked
                ? `${plural(fix.kind === 'cells' ? fix.cells.length : 0, 'cell')} to save`
                : tried.data
                  ? sayEffect(tried.data, false)
                  : tried.error
                    ? 'This cannot be tried'
                    : 'Trying…'}
          </Box>
          <Box muted small>
            {fix?.kind === 'cells' && !tried.error
              ? `${plural(fix.cells.length, 'cell')} to save${tried.data ? ', tried on all listings of these goods' : ''}.`
              : tried.error
                ? tried.error.message
                : tried.data
                  ? `Tried on all ${count(cause.touched)} listings it touches, not saved.`
                  : 'Choose a fix to see what it would do.'}
          </Box>
        </Box>
        <Button variant="outlined" color="inherit" onClick={onNext}>
          Skip
        </Button>
        <Button
          variant="contained"
          disabled={fix === undefined || save.isPending}
          onClick={() => fix && save.mutate(fix)}
        >
          Save and go to next
        </Button>
      </div>
    </>
  );
}

function sayEffect({ listingsChanged, becameReady, becameBlocked }: Effect, saved: boolean): string {
  if (becameReady + becameBlocked > 0) return sayBecoming({ becameReady, becameBlocked }, saved);
  if (!saved) return 'Other causes would still block these';
  return listingsChanged > 0 ? 'Saved; other causes still block these' : 'Saved; nothing changed';
}

/** A few of the listings, and what else blocks them. */
function Touched({ cause }: { cause: CauseDetail }) {
  return (
    <>
      <Box as="h3" around={[3.5, 0, 1]}>
        The listings
      </Box>
      <DataTable
        label="The listings"
        headless
        rows={cause.listings.slice(0, 12)}
        keyOf={({ id }) => id}
        columns={[
          {
            head: 'Goods',
            look: { cut: true, maxWide: 300 },
            cell: (listing) => (
              <Link to={`/listings?open=${listing.id}`} className="plain">
                {listing.title ?? listing.sku}
              </Link>
            ),
          },
          { head: 'Finding', cell: ({ finding }) => finding, look: { small: true, muted: true } },
          {
            head: 'Others',
            look: { oneLine: true },
            cell: ({ others }) =>
              others > 0 ? (
                <Box as="span" small muted>
                  {plural(others, 'other cause')}
                </Box>
              ) : cause.severity === 'blocker' ? (
                <State is="blocked">only this</State>
              ) : null,
          },
        ]}
      />
      {cause.touched > 12 && (
        <Link to={`/listings?cause=${encodeURIComponent(cause.key)}`}>All {count(cause.touched)} listings</Link>
      )}
    </>
  );
}
