/** Fills of another place, or of a file, beside what stands here: chosen, tried and saved as one; and those of here as a file. */
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type CarriedFill, api } from '@velvet-shelf/contract';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { DropZone } from '../design/DropZone';
import { Empty, ProblemBox, useTell } from '../design/feedback';
import { readJson, saveJson } from '../design/files';
import { plural, sayBecoming } from '../design/words';
import { useCompared } from './compared';
import { sayFillRule } from './sayFill';

const keyOf = ({ attribute, market, category }: CarriedFill) => JSON.stringify([attribute, market, category]);

export function CarryFills({
  placeId,
  way,
  onWay,
}: {
  placeId: number;
  way: 'place' | 'file';
  onWay: (way: 'place' | 'file' | undefined) => void;
}) {
  const params = { id: placeId };
  const places = useQuery(ask(api.channels.places));
  const here = places.data?.items.find(({ id }) => id === placeId);
  const [from, setFrom] = useState('');
  const tell = useTell();
  const brought = useMutation({
    mutationFn: async (source: number | File) =>
      call(api.channels.carryFills, {
        params,
        body: typeof source === 'number' ? { place: source } : { file: await readJson(source) },
      }),
  });
  const keep = useMutation({
    mutationFn: () => call(api.channels.fillsFile, { params }),
    onSuccess: (file) => {
      saveJson(`fills-${here?.channel ?? 'channel'}-${here?.market ?? ''}.json`, file);
      tell(`${plural(file.fills.length, 'fill')} kept in a file`);
    },
  });
  const error = brought.error ?? keep.error;
  return (
    <Box col grow surface="card" minWide={0}>
      <Box pad={[3.5, 6, 0]}>
        <h2>Fills from elsewhere</h2>
        <Box as="p" muted around={[0.5, 0, 3]}>
          Each is fitted to what {here?.channelName ?? 'this channel'} takes and shown beside what stands here. Nothing
          is saved until you say so.
        </Box>
        <Box row wrap align="end" below={3}>
          <TextField
            select
            label="Copy from"
            value={way === 'file' ? 'file' : from}
            sx={{ width: 260 }}
            onChange={({ target }) => {
              brought.reset();
              if (target.value === 'file') return onWay('file');
              onWay('place');
              setFrom(target.value);
              brought.mutate(Number(target.value));
            }}
          >
            {places.data?.items
              .filter(({ id }) => id !== placeId)
              .map(({ id, name }) => (
                <MenuItem key={id} value={String(id)}>
                  {name}
                </MenuItem>
              ))}
            <MenuItem value="file">A file of fills</MenuItem>
          </TextField>
          <Box grow />
          <Button variant="outlined" color="inherit" disabled={keep.isPending} onClick={() => keep.mutate()}>
            Keep the fills of this place in a file
          </Button>
        </Box>
        {way === 'file' && !brought.data && (
          <DropZone
            head="A file of fills"
            hint="as “Keep the fills of this place in a file” writes it, of this or another channel"
            choose="Choose a file"
            accept=".json"
            isBusy={brought.isPending}
            onFiles={([file]) => file && brought.mutate(file)}
          />
        )}
        {error && <ProblemBox error={error} />}
      </Box>
      {brought.data ? (
        <Review
          key={brought.data.of}
          placeId={placeId}
          brought={brought.data}
          onDone={() => {
            brought.reset();
            onWay(undefined);
          }}
        />
      ) : (
        <Box grow />
      )}
    </Box>
  );
}

function Review({
  placeId,
  brought: { of, items, unfit },
  onDone,
}: {
  placeId: number;
  brought: { of: string; items: CarriedFill[]; unfit: { label: string; why: string }[] };
  onDone: () => void;
}) {
  const params = { id: placeId };
  const compared = useCompared().data ?? [];
  const queries = useQueryClient();
  const tell = useTell();
  const offered = items.filter(({ is }) => is !== 'same');
  // What stands here already is left unless somebody takes the other one.
  const [taken, setTaken] = useState(() => new Set(offered.filter(({ is }) => is === 'new').map(keyOf)));
  const chosen = offered.filter((item) => taken.has(keyOf(item)));
  const fills = chosen.map(({ attribute, market, category, fill }) => ({ attribute, market, category, fill }));
  const body = { fills, over: true };
  const tried = useQuery({ ...ask(api.channels.tryFills, { params, body: { fills } }), enabled: fills.length > 0 });
  const save = useMutation({
    mutationFn: () => call(api.channels.saveFills, { params, body }),
    onSuccess: (effect) => {
      tell(`Copied ${plural(fills.length, 'fill')} from ${of}; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
      onDone();
    },
  });
  const say = (item: CarriedFill, fill: CarriedFill['now']) =>
    fill ? sayFillRule(fill.rule, [...item.sources, ...compared]) : 'nothing';
  const same = items.length - offered.length;
  const error = tried.error ?? save.error;
  return (
    <>
      <Box grow scroll pad={[0, 6, 3]}>
        {offered.length === 0 ? (
          <Empty title={`Nothing to copy from ${of}`}>
            {same > 0
              ? `${plural(same, 'fill stands', 'fills stand')} here just so.`
              : 'It has no fill that fits here.'}
          </Empty>
        ) : (
          <DataTable
            label={`Fills of ${of}`}
            rows={offered}
            keyOf={keyOf}
            columns={[
              {
                head: 'Take',
                look: { wide: 50 },
                cell: (item) => (
                  <input
                    type="checkbox"
                    aria-label={`Take ${item.label}`}
                    checked={taken.has(keyOf(item))}
                    onChange={({ target }) => {
                      const next = new Set(taken);
                      if (target.checked) next.add(keyOf(item));
                      else next.delete(keyOf(item));
                      setTaken(next);
                    }}
                  />
                ),
              },
              {
                head: 'Attribute',
                cell: ({ label, names, market, notes }) => (
                  <>
                    <b>{label}</b>
                    {(names.length > 0 || market !== '') && (
                      <Box small muted>
                        {[names.at(-1), market && `${market} alone`].filter(Boolean).join(', ')}
                      </Box>
                    )}
                    {notes.map((note) => (
                      <Box key={note} small tone="advice">
                        {note}
                      </Box>
                    ))}
                  </>
                ),
              },
              { head: 'Now', look: { small: true, tone: 'muted' }, cell: (item) => say(item, item.now) },
              { head: 'Would be', look: { small: true }, cell: (item) => say(item, item.fill) },
            ]}
          />
        )}
        {same > 0 && offered.length > 0 && (
          <Box as="p" small muted above={2}>
            {plural(same, 'fill stands', 'fills stand')} here just so already.
          </Box>
        )}
        {unfit.length > 0 && (
          <Box as="section" above={4} aria-label="Not carried">
            <h3>{plural(unfit.length, 'fill')} of it cannot stand here</h3>
            <Box as="ul" small muted>
              {unfit.map(({ label, why }, i) => (
                <li key={i}>
                  {label}: {why}
                </li>
              ))}
            </Box>
          </Box>
        )}
        {error && <ProblemBox error={error} />}
      </Box>
      <div className="effect">
        <Box grow>
          <Box serif textSize={18} role="status">
            {fills.length === 0
              ? 'Nothing is taken'
              : tried.data
                ? sayBecoming(tried.data)
                : 'Trying them on the whole assortment…'}
          </Box>
          <Box muted small>
            {plural(fills.length, 'fill')} of {offered.length} taken; tried on the whole assortment, not saved.
          </Box>
        </Box>
        <Button variant="outlined" color="inherit" onClick={onDone}>
          Leave them
        </Button>
        <Button variant="contained" disabled={fills.length === 0 || save.isPending} onClick={() => save.mutate()}>
          Take {plural(fills.length, 'fill')}
        </Button>
      </div>
    </>
  );
}
