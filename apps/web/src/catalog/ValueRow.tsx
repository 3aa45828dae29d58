/** One value: shown with where it comes from, edited in place, its claims beside it. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type Edit, type ProductValue, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { keyOf } from '../api/ask';
import { ApiProblem, call } from '../api/call';
import { ProblemBox, useTell } from '../design/feedback';
import { day, plural } from '../design/words';

export function ValueRow({ productId, value, editing }: { productId: number; value: ProductValue; editing: boolean }) {
  const [draft, setDraft] = useState<string | null>(editing ? (value.text ?? '') : null);
  /** What the editor was opened on: a change by somebody else meanwhile is not written over unseen. */
  const [against, setAgainst] = useState(value.text);
  const begin = () => {
    setAgainst(value.text);
    setDraft(value.text ?? '');
  };
  const [claims, setClaims] = useState(false);
  const queries = useQueryClient();
  const tell = useTell();
  const save = useMutation({
    mutationFn: (edit: Pick<Edit, 'text' | 'letGo'>) =>
      call(api.catalog.edit, {
        params: { id: productId },
        body: { edits: [{ attribute: value.attribute, language: value.language, madeAgainst: against, ...edit }] },
      }),
    onSuccess: (answer) => {
      setDraft(null);
      queries.setQueryData(keyOf(api.catalog.product, { params: { id: productId } }), answer.product);
      void queries.invalidateQueries();
      const { becameReady, becameBlocked } = answer;
      tell(
        `Saved ${value.label}${becameReady > 0 ? `; ${plural(becameReady, 'listing')} became ready` : ''}${becameBlocked > 0 ? `; ${plural(becameBlocked, 'listing')} became blocked` : ''}`,
      );
    },
  });
  const hasMoved = draft !== null && !save.isPending && against !== value.text;
  const long = value.type === 'richText';
  const label = value.language ? `${value.label} · ${value.language}` : value.label;
  const winner = value.claims.find((claim) => claim.wins);
  const beaten = value.claims.filter((claim) => !claim.wins);
  return (
    <Box pad={[1.5, 0]} line="bottom">
      <Box row align="baseline" gap={2.5} wrap={long}>
        <Box as="span" wide={116} fixed tone="muted" textSize={12.5}>
          {label}
        </Box>
        {draft === null ? (
          <button type="button" className="value" aria-label={`Edit ${label}`} onClick={begin}>
            {value.shown === null ? (
              <Box as="span" muted>
                not given
              </Box>
            ) : value.origin === 'inherited' ? (
              <Box as="i" muted>
                {value.shown}
              </Box>
            ) : long ? (
              value.shown.slice(0, 900)
            ) : (
              value.shown
            )}
          </button>
        ) : (
          <Box
            as="form"
            grow

            onSubmit={(event) => {
              event.preventDefault();
              save.mutate({ text: draft === '' ? null : draft });
            }}
            onKeyDown={(event) => event.key === 'Escape' && setDraft(null)}
          >
            <TextField
              fullWidth
              autoFocus
              select={value.choices !== null}
              multiline={value.choices === null && (long || value.role === 'title')}
              maxRows={10}
              value={draft}
              onChange={(event) => setDraft(event.target.value)}
              slotProps={{ htmlInput: { 'aria-label': label } }}
            >
              {value.choices && [
                <MenuItem key="" value="">
                  <Box as="span" muted>
                    empty on purpose
                  </Box>
                </MenuItem>,
                ...value.choices.map(({ key, name }) => (
                  <MenuItem key={key} value={name}>
                    {name}
                  </MenuItem>
                )),
              ]}
            </TextField>
            <Box row above={1}>
              <Button
                type="submit"
                variant="contained"
                disabled={save.isPending || hasMoved || draft === (value.text ?? '')}
              >
                Save
              </Button>
              <Button color="inherit" onClick={() => setDraft(null)}>
                Cancel
              </Button>
              {value.origin === 'edit' && (
                <Button color="secondary" onClick={() => save.mutate({ letGo: true })}>
                  Let the sources speak again
                </Button>
              )}
            </Box>
            {hasMoved && (
              <Box small above={1} role="status">
                Somebody has made it <b>{value.shown ?? 'empty'}</b> meanwhile.{' '}
                <Button
                  color="secondary"
                  sx={{ p: 0 }}
                  onClick={() => {
                    save.reset();
                    setAgainst(value.text);
                  }}
                >
                  Write over it
                </Button>
              </Box>
            )}
            {save.error && <ProblemBox error={save.error} />}
            {!hasMoved && save.error instanceof ApiProblem && save.error.status === 412 && (
              <Button color="secondary" onClick={() => void queries.invalidateQueries()}>
                Show what it is now
              </Button>
            )}
          </Box>
        )}
      </Box>
      {(winner || beaten.length > 0) && (
        <button type="button" className="who" onClick={() => setClaims(!claims)} aria-expanded={claims}>
          {value.origin === 'inherited' ? 'from the family' : winner?.from}
          {winner?.at && `, ${day(winner.at)}`}
          {beaten.length > 0 && (
            <>
              {' '}
              won over {beaten
                .map((claim) => `${claim.from} (${claim.text?.slice(0, 24) ?? 'empty'})`)
                .join(', ')} · <b>{value.why}</b>
            </>
          )}
        </button>
      )}
      {claims &&
        value.claims.map((claim, i) => (
          <Box wrap row small before={31.5} align="baseline" gap={[0, 2]} key={i}>
            <Box as="span" cut maxWide="100%" fixed>
              {claim.wins ? '● ' : '○ '}
              {claim.text?.slice(0, 80) ?? 'empty on purpose'}
            </Box>
            <Box as="span" muted>
              {claim.batchId === null ? (
                claim.from
              ) : (
                <Link
                  to={`/intake/${claim.batchId}?tab=rows${claim.row === null ? '' : `&row=${claim.row}`}`}
                >{`${claim.from}, row ${claim.row}${claim.column ? `, “${claim.column}”` : ''}`}</Link>
              )}
            </Box>
          </Box>
        ))}
    </Box>
  );
}
