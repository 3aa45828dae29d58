/** One value: shown with where it comes from, edited in place, its claims beside it. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type Edit, type ProductValue, api } from '@velvet-shelf/contract';
import { type ReactNode, useState } from 'react';
import { z } from 'zod';
import { Link } from 'react-router';
import { FileLinks, SendFile } from '../files/SendFile';
import { keyOf } from '../api/ask';
import { ApiProblem, call } from '../api/call';
import { Field, Form, useFields } from '../design/Form';
import { useTell } from '../design/feedback';
import { count, day, plural } from '../design/words';

export function ValueRow({ productId, value, editing }: { productId: number; value: ProductValue; editing: boolean }) {
  const [isOpen, setOpen] = useState(editing);
  /** What the editor was opened on: a change by somebody else meanwhile is not written over unseen. */
  const [against, setAgainst] = useState(value.text);
  const begin = () => {
    setAgainst(value.text);
    setOpen(true);
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
    onSuccess: async ({ becameReady, becameBlocked }) => {
      // The row shows what it has become before the form closes.
      await queries.invalidateQueries({ queryKey: keyOf(api.catalog.product, { params: { id: productId } }) });
      setOpen(false);
      void queries.invalidateQueries();
      tell(
        `Saved ${value.label}${becameReady > 0 ? `; ${plural(becameReady, 'listing')} became ready` : ''}${becameBlocked > 0 ? `; ${plural(becameBlocked, 'listing')} became blocked` : ''}`,
      );
    },
  });
  const hasMoved = isOpen && !save.isPending && against !== value.text;
  const long = value.type === 'richText';
  const label = value.language ? `${value.label} · ${value.language}` : value.label;
  const winner = value.claims.find((claim) => claim.wins);
  const beaten = value.claims.filter((claim) => !claim.wins);
  return (
    <Box pad={[1.5, 0]} line="bottom">
      <Box row align="baseline" gap={2.5} wrap={long}>
        <Box as="span" wide={116} fixed tone="muted" textSize={12.5} title={value.help ?? undefined}>
          {label}
        </Box>
        {!isOpen ? (
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
          <ValueForm
            label={label}
            value={value}
            busy={save.isPending || hasMoved}
            error={save.error}
            onSave={(text) => save.mutate({ text: text === '' ? null : text })}
            onLetGo={() => save.mutate({ letGo: true })}
            onCancel={() => setOpen(false)}
          >
            {value.help !== null && (
              <Box small muted above={1}>
                {value.help}
              </Box>
            )}
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
            {!hasMoved && save.error instanceof ApiProblem && save.error.status === 412 && (
              <Button color="secondary" onClick={() => void queries.invalidateQueries()}>
                Show what it is now
              </Button>
            )}
          </ValueForm>
        )}
      </Box>
      {!isOpen && value.type === 'file' && value.shown !== null && (
        <Box small pad={[0.5, 0, 0, 31.5]}>
          <FileLinks names={value.shown} />
        </Box>
      )}
      {!winner && value.why !== null && (
        <Box small muted pad={[0.5, 0, 0, 31.5]}>
          {value.origin === 'computed' ? 'worked out' : 'not worked out'}: {value.why}
        </Box>
      )}
      {(winner || beaten.length > 0) && (
        <button type="button" className="who" onClick={() => setClaims(!claims)} aria-expanded={claims}>
          {value.origin === 'inherited' ? 'from the family' : winner?.from}
          {winner?.at && `, ${day(winner.at)}`}
          {beaten.length > 0 && (
            <>
              {' '}
              won over {sayBeaten(beaten)} · <b>{value.why}</b>
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

const valueFields = z.object({ text: z.string() });

/** The value as it is typed, or chosen from its closed list. */
function ValueForm({
  label,
  value,
  busy,
  error,
  onSave,
  onLetGo,
  onCancel,
  children,
}: {
  label: string;
  value: ProductValue;
  busy: boolean;
  error: unknown;
  onSave: (text: string) => void;
  onLetGo: () => void;
  onCancel: () => void;
  children: ReactNode;
}) {
  const form = useFields(valueFields, { text: value.text ?? '' });
  const empty = (
    <Box as="span" muted>
      empty on purpose
    </Box>
  );
  return (
    <Form form={form} onSend={({ text }) => onSave(text)} onCancel={onCancel} error={error} grow>
      <Field
        control={form.control}
        name="text"
        says={label}
        fullWidth
        autoFocus
        multiline={value.choices === null && (value.type === 'richText' || value.role === 'title')}
        maxRows={10}
        {...(value.choices
          ? { options: [['', empty], ...value.choices.map(({ name }) => [name, name] as const)] }
          : {})}
      />
      {value.type === 'file' && (
        <SendFile
          onSent={(name) => {
            const before = form.getValues('text').trim();
            form.setValue('text', value.many && before !== '' ? `${before}, ${name}` : name, { shouldDirty: true });
          }}
        />
      )}
      <Box row above={1}>
        <Button type="submit" variant="contained" disabled={busy || form.watch('text') === (value.text ?? '')}>
          Save
        </Button>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
        {value.origin === 'edit' && (
          <Button color="secondary" onClick={onLetGo}>
            Let the sources speak again
          </Button>
        )}
      </Box>
      {children}
    </Form>
  );
}

const mostBeaten = 3;

/** Who says something else, each word of theirs once: a family’s value is beaten by that of every variant of it. */
function sayBeaten(claims: ProductValue['claims']): string {
  const words = new Map<string, number>();
  for (const { from, text } of claims) {
    const said = `${from} (${text?.slice(0, 24) ?? 'empty'})`;
    words.set(said, (words.get(said) ?? 0) + 1);
  }
  const listed = [...words]
    .slice(0, mostBeaten)
    .map(([said, times]) => (times > 1 ? `${said} × ${count(times)}` : said));
  const more = words.size - listed.length;
  return `${listed.join(', ')}${more > 0 ? ` and ${count(more)} more` : ''}`;
}
