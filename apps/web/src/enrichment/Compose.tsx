/** One text of many goods, put together of what each of them holds, with ten of them to look at while it is. */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type WantedText, api, chosenSchema, wantedTextSchema } from '@velvet-shelf/contract';
import { optionsSource } from '@velvet-shelf/core/enrichment';
import { identifyingRoles, sayLanguage } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { z } from 'zod';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Empty, ProblemBox, useTell } from '../design/feedback';
import { Ordered } from '../design/Ordered';
import { useSettled } from '../design/settled';
import { count, plural, sayBecoming } from '../design/words';

const given = z.object({ chosen: chosenSchema });

interface Draft {
  id: number;
  of: string | null;
  before: string;
  after: string;
}

interface Source {
  slot: string;
  label: string;
}

/** The goods come with whoever opens the page. */
export function Compose() {
  const { state } = useLocation();
  const read = given.safeParse(state).data;
  return (
    <Box grow scroll pad={[3.5, 5, 6]}>
      <h1>Compose a text</h1>
      {read ? (
        <Composer chosen={read.chosen} />
      ) : (
        <Empty title="No goods are chosen">
          Choose some in the <Link to="/catalog">catalog</Link>, and compose a text of them there.
        </Empty>
      )}
    </Box>
  );
}

function Composer({ chosen }: { chosen: WantedText['chosen'] }) {
  const { languages } = useCompany();
  const attributes = useQuery({ ...ask(api.catalog.attributes), staleTime: 300_000 });
  const queries = useQueryClient();
  const navigate = useNavigate();
  const tell = useTell();
  const all = attributes.data?.items ?? [];
  const texts = all.filter(
    ({ type, role, many }) =>
      (type === 'text' || type === 'richText') && !many && !(role && identifyingRoles.has(role)),
  );
  const [key, setKey] = useState<string>();
  const target = texts.find((one) => one.key === key) ?? texts.find(({ role }) => role === 'title') ?? texts[0];
  const [chosenLanguage, setLanguage] = useState<string>();
  const language = target?.perLanguage ? (chosenLanguage ?? languages[0] ?? null) : null;
  const [parts, setParts] = useState<readonly Draft[]>([]);
  const sources: Source[] = [
    { slot: optionsSource, label: 'All its options' },
    ...all
      .filter(({ type, key: of }) => type !== 'media' && of !== target?.key)
      .map(({ key: of, label, perLanguage }) => ({
        slot: perLanguage ? `${of}@${language ?? languages[0] ?? ''}` : of,
        label,
      })),
  ];
  const labelOf = (slot: string) => sources.find((source) => source.slot === slot)?.label ?? slot;
  const wanted: WantedText | undefined =
    target && parts.length > 0
      ? {
          chosen,
          attribute: target.key,
          language,
          parts: parts.map(({ of, before, after }) => ({ of, before, after })),
        }
      : undefined;
  // As text: it is another only where something was said otherwise.
  const said = JSON.stringify(wanted ?? null);
  const settled = useSettled(said);
  const sent = wantedTextSchema.safeParse(JSON.parse(settled)).data;
  const tried = useQuery({
    ...ask(api.compose.tryOut, sent ? { body: sent } : {}),
    enabled: sent !== undefined,
    retry: false,
    gcTime: 0,
    placeholderData: keepPreviousData,
  });
  const save = useMutation({
    mutationFn: () => call(api.compose.save, wanted ? { body: wanted } : {}),
    onSuccess: ({ goods, ...effect }) => {
      tell(`Composed ${plural(goods, 'text')}; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries();
      void navigate('/catalog');
    },
  });
  const add = (of: string | null) =>
    setParts([
      ...parts,
      {
        id: Math.max(0, ...parts.map(({ id }) => id)) + 1,
        of,
        before: parts.length > 0 && of !== null ? ' ' : '',
        after: '',
      },
    ]);
  const change = (id: number, to: Partial<Draft>) =>
    setParts(parts.map((part) => (part.id === id ? { ...part, ...to } : part)));
  const answer = sent && tried.data;
  return (
    <>
      <Box row wrap above={2} below={3}>
        <TextField
          select
          size="small"
          label="Text"
          value={target?.key ?? ''}
          onChange={(event) => setKey(event.target.value)}
          sx={{ minWidth: 180 }}
        >
          {texts.map(({ key: of, label }) => (
            <MenuItem key={of} value={of}>
              {label}
            </MenuItem>
          ))}
        </TextField>
        {target?.perLanguage && (
          <TextField
            select
            size="small"
            label="Language"
            value={language ?? ''}
            onChange={(event) => setLanguage(event.target.value)}
            sx={{ minWidth: 180 }}
          >
            {languages.map((tag) => (
              <MenuItem key={tag} value={tag}>
                {sayLanguage(tag)}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Autocomplete
          size="small"
          options={sources}
          getOptionKey={({ slot }) => slot}
          getOptionLabel={({ label }) => label}
          value={null}
          blurOnSelect
          clearOnBlur
          onChange={(_, source) => source && add(source.slot)}
          sx={{ width: 240 }}
          renderInput={(params) => <TextField {...params} label="Add a value" />}
        />
        <Button color="inherit" onClick={() => add(null)}>
          Add words
        </Button>
      </Box>
      {parts.length === 0 && (
        <Box as="p" muted>
          Add the values it is made of, in their order. Words before and behind one stand there only where goods have
          it.
        </Box>
      )}
      <Ordered
        label="Parts of the text"
        ids={parts.map(({ id }) => id)}
        nameOf={(id) => {
          const of = parts.find((part) => part.id === id)?.of;
          return of ? labelOf(of) : 'words';
        }}
        onOrder={(ids) => setParts(ids.flatMap((id) => parts.find((part) => part.id === id) ?? []))}
      >
        {(id, place, handle) => {
          const part = parts.find((one) => one.id === id);
          const name = part?.of ? labelOf(part.of) : 'Words';
          return (
            <Box row pad={[1.5, 0]}>
              <span className="drag" {...handle} aria-label={`Move ${name}, place ${place}`}>
                <DragIndicatorIcon fontSize="small" />
              </span>
              <TextField
                size="small"
                label={part?.of ? 'before it' : 'Words'}
                value={part?.before ?? ''}
                onChange={({ target: field }) => change(id, { before: field.value })}
                sx={{ width: part?.of ? 120 : 420 }}
              />
              {part?.of && (
                <>
                  <Box medium wide={170} cut>
                    {name}
                  </Box>
                  <TextField
                    size="small"
                    label="behind it"
                    value={part.after}
                    onChange={({ target: field }) => change(id, { after: field.value })}
                    sx={{ width: 120 }}
                  />
                </>
              )}
              <Button
                color="inherit"
                aria-label={`Take ${name} out`}
                onClick={() => setParts(parts.filter((one) => one.id !== id))}
              >
                Take out
              </Button>
            </Box>
          );
        }}
      </Ordered>
      {tried.error && <ProblemBox error={tried.error} />}
      {answer && parts.length > 0 && (
        <Box above={3}>
          <Box row wrap below={2}>
            <Button
              variant="contained"
              disabled={answer.changed === 0 || settled !== said || save.isPending}
              onClick={() => save.mutate()}
            >
              Write {plural(answer.changed, 'text')}
            </Button>
            <Box small role="status">
              of {plural(answer.goods, 'product')}; the longest has {plural(answer.longest, 'character')}
              {answer.empty > 0 && `; ${count(answer.empty)} have nothing to say and keep theirs`}
              {answer.alike > 0 && (
                <Box as="span" tone="advice">
                  ; {count(answer.alike)} would read like goods of another family
                </Box>
              )}
            </Box>
          </Box>
          {save.error && <ProblemBox error={save.error} title="Nothing was written" />}
          <DataTable
            label="Examples"
            look={{ surface: 'card' }}
            rows={answer.examples}
            keyOf={({ id }) => id}
            columns={[
              { head: 'SKU', cell: ({ sku }) => sku ?? 'family', look: { small: true } },
              {
                head: 'Now',
                cell: ({ before }) => (
                  <Box as="span" muted>
                    {before ?? 'nothing'}
                  </Box>
                ),
              },
              { head: 'Then', cell: ({ after }) => after },
              { head: 'Characters', cell: ({ after }) => [...after].length, look: { num: true } },
            ]}
          />
        </Box>
      )}
    </>
  );
}
