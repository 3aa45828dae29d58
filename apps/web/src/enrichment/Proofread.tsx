/** What is wrong with texts themselves: words nobody knows, texts in another language, repeated, hard to read. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FaultKind, type TextFault, type UnknownWord, api, faultKinds } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { z } from 'zod';
import { useAddress } from '../api/address';
import { ask, askPages } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { ShowMore } from '../design/ShowMore';
import { count, plural, sayBecoming } from '../design/words';
import { Progress, SideChoice } from './parts';

const pageRows = 50;
const proofAddress = z.object({ about: z.enum(['words', ...faultKinds]).default('words') });

const heads: Record<FaultKind, string> = {
  language: 'In another language',
  repeated: 'Said before',
  hard: 'Hard to read',
};

export function Proofread() {
  const [{ about }, set] = useAddress(proofAddress);
  const counts = useQuery(ask(api.proofreading.counts));
  const missing = counts.data?.dictionaries.filter(({ there }) => !there) ?? [];
  return (
    <Box row align="stretch" gap={0} grow minHigh={0}>
      <Box as="section" wide={280} fixed scroll line="right" pad={[3.5, 4]} aria-label="What is looked for">
        <h1>Proofread</h1>
        <Box small muted below={3}>
          what is wrong with texts themselves
        </Box>
        <SideChoice
          label="Unknown words"
          n={counts.data?.words ?? 0}
          isOn={about === 'words'}
          onChoose={() => set({ about: 'words' })}
        />
        {faultKinds.map((kind) => (
          <SideChoice
            key={kind}
            label={heads[kind]}
            n={counts.data?.faults[kind] ?? 0}
            isOn={about === kind}
            onChoose={() => set({ about: kind })}
          />
        ))}
        {missing.length > 0 && (
          <Box small muted above={4}>
            Spelling of {missing.map(({ language }) => sayLanguage(language)).join(' and ')} is not looked at: no
            dictionary is installed.
          </Box>
        )}
      </Box>
      <Box as="section" col grow scroll minWide={0} pad={[3.5, 5]} aria-label="Texts">
        <Progress kind="proofread" />
        {about === 'words' ? <Words /> : <Faults key={about} fault={about} />}
      </Box>
    </Box>
  );
}

const nothing = (
  <Empty title="Nothing waits here">
    Choose goods in the <Link to="/catalog">catalog</Link>, and let their texts be proofread.
  </Empty>
);

function Words() {
  const words = useInfiniteQuery(askPages(api.proofreading.words, { query: { limit: pageRows } }));
  const items = words.data?.pages.flatMap((page) => page.items) ?? [];
  const list = useRef<HTMLDivElement>(null);
  /** Where one is by keys: once a word is settled, at the one that has come up into its place. */
  const at = useRef<number>(undefined);
  const go = (index: number) => {
    const articles = list.current?.querySelectorAll<HTMLElement>('article') ?? [];
    articles[Math.max(0, Math.min(index, articles.length - 1))]?.focus();
  };
  const first = items.map(({ word, language }) => `${language} ${word}`).join();
  useEffect(() => {
    if (at.current !== undefined && document.activeElement === document.body) go(at.current);
  }, [first]);
  return (
    <>
      <Loaded query={words}>
        {() =>
          items.length === 0 ? (
            nothing
          ) : (
            <>
              <Box small muted below={2}>
                By keys: Tab to a word, ↑ and ↓ to the others, 1 to 9 writes a suggestion, W says it is a word, O writes
                another.
              </Box>
              <div ref={list}>
                {items.map((item, index) => (
                  <Word
                    key={`${item.language} ${item.word}`}
                    item={item}
                    onHere={() => (at.current = index)}
                    onStep={(by) => go(index + by)}
                  />
                ))}
              </div>
            </>
          )
        }
      </Loaded>
      <ShowMore of={words} />
    </>
  );
}

interface WordProps {
  item: UnknownWord;
  /** One is at it by keys. */
  onHere: () => void;
  onStep: (by: 1 | -1) => void;
}

function Word({ item: { word, language, texts, suggestions, example }, onHere, onStep }: WordProps) {
  const queries = useQueryClient();
  const tell = useTell();
  const [typed, setTyped] = useState('');
  const replace = useMutation({
    mutationFn: (by: string) => call(api.proofreading.replace, { body: { word, language, by } }),
    onSuccess: ({ texts: mended, ...effect }, by) => {
      void queries.invalidateQueries();
      tell(`Wrote “${by}” for “${word}” in ${plural(mended, 'text')}; ${sayBecoming(effect, true)}`);
    },
  });
  const know = useMutation({
    mutationFn: () => call(api.proofreading.know, { body: { word, language } }),
    onSuccess: () => {
      void queries.invalidateQueries();
      tell(`“${word}” is a word from now on`);
    },
  });
  const isBusy = replace.isPending || know.isPending;
  const another = useRef<HTMLInputElement>(null);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    const by = suggestions[Number(event.key) - 1];
    if (event.key === 'ArrowDown') onStep(1);
    else if (event.key === 'ArrowUp') onStep(-1);
    else if (event.key === 'o') another.current?.focus();
    else if (event.key === 'w' && !isBusy) know.mutate();
    else if (by !== undefined && !isBusy) replace.mutate(by);
    else return;
    event.preventDefault();
  };
  return (
    <Box
      as="article"
      surface="card"
      rounded
      pad={[2.5, 4]}
      below={2}
      aria-label={word}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onFocus={onHere}
    >
      <Box row wrap>
        <b>{word}</b>
        <Box as="span" small muted>
          {sayLanguage(language)}, in {plural(texts, 'text')}
        </Box>
        <Box as="span" grow />
        {suggestions.map((by) => (
          <Button
            key={by}
            variant="outlined"
            disabled={isBusy}
            aria-label={`Write ${by} for ${word}`}
            onClick={() => replace.mutate(by)}
          >
            {by}
          </Button>
        ))}
        <Box
          as="form"
          row
          onSubmit={(event) => {
            event.preventDefault();
            if (typed.trim() !== '') replace.mutate(typed.trim());
          }}
        >
          <TextField
            label="Another word"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            inputRef={another}
            slotProps={{ htmlInput: { maxLength: 100 } }}
          />
          <Button type="submit" disabled={isBusy || typed.trim() === ''}>
            Write it
          </Button>
        </Box>
        <Button color="inherit" disabled={isBusy} onClick={() => know.mutate()}>
          It is a word
        </Button>
      </Box>
      <Box small>
        {example.before}
        <mark>{example.words}</mark>
        {example.after}
      </Box>
      <Box small muted>
        {example.label} of <PlaceLink {...example} />
        {texts > 1 && `, and ${plural(texts - 1, 'other')}`}
      </Box>
      {(replace.error ?? know.error) && <ProblemBox error={replace.error ?? know.error} title="Nothing was changed" />}
    </Box>
  );
}

function PlaceLink({ product, kind, sku, title }: Pick<TextFault, 'product' | 'kind' | 'sku' | 'title'>) {
  return (
    <Link to={`/catalog/product/${product}?tab=texts${kind === 'variant' ? '&level=variant' : ''}`}>
      {title ?? sku ?? 'a product'}
    </Link>
  );
}

function Faults({ fault }: { fault: FaultKind }) {
  const queries = useQueryClient();
  const faults = useInfiniteQuery(askPages(api.proofreading.faults, { query: { limit: pageRows, fault } }));
  const items = faults.data?.pages.flatMap((page) => page.items) ?? [];
  const tell = useTell();
  const move = useMutation({
    mutationFn: (ids: number[]) => call(api.proofreading.move, { body: { ids } }),
    onSuccess: ({ texts, left, ...effect }) => {
      void queries.invalidateQueries();
      const stayed = left > 0 ? `; ${plural(left, 'text')} left, because there is another one already` : '';
      tell(`Moved ${plural(texts, 'text')}; ${sayBecoming(effect, true)}${stayed}`);
    },
  });
  const movable = items.flatMap(({ id, said }) => (said.fault === 'language' && said.to !== null ? [id] : []));
  const leave = useMutation({
    mutationFn: (ids: number[]) => call(api.proofreading.leave, { body: { ids } }),
    onSuccess: () => void queries.invalidateQueries(),
  });
  return (
    <>
      {(leave.error ?? move.error) && <ProblemBox error={leave.error ?? move.error} title="Nothing was changed" />}
      {movable.length > 1 && (
        <Box row below={3}>
          <Button variant="contained" disabled={move.isPending} onClick={() => move.mutate(movable)}>
            Move {plural(movable.length, 'text')} to the language they are in
          </Button>
          <Box small muted>
            one step, taken back as one
          </Box>
        </Box>
      )}
      <Loaded query={faults}>
        {() =>
          items.length === 0 ? (
            nothing
          ) : (
            <DataTable
              label={heads[fault]}
              look={{ surface: 'card' }}
              rows={items}
              keyOf={({ id }) => String(id)}
              columns={[
                {
                  head: 'Product',
                  cell: (item) => (
                    <Box maxWide={210}>
                      <PlaceLink {...item} />
                      <Box small muted>
                        {item.label}, {sayLanguage(item.language)}
                      </Box>
                    </Box>
                  ),
                },
                { head: 'Text', cell: ({ excerpt }) => <Box small>{excerpt}</Box> },
                { head: 'What is wrong', cell: ({ said }) => <Said said={said} /> },
                {
                  head: '',
                  id: 'Leave it',
                  cell: ({ id, title, said }) => (
                    <Box row gap={0}>
                      {said.fault === 'language' && said.to !== null && (
                        <Button
                          disabled={move.isPending}
                          aria-label={`Move the text of ${title ?? 'it'} to ${sayLanguage(said.to)}`}
                          onClick={() => move.mutate([id])}
                        >
                          Move it there
                        </Button>
                      )}
                      <Button
                        color="inherit"
                        disabled={leave.isPending}
                        aria-label={`Leave the text of ${title ?? 'it'}`}
                        onClick={() => leave.mutate([id])}
                      >
                        It is right
                      </Button>
                    </Box>
                  ),
                },
              ]}
            />
          )
        }
      </Loaded>
      <ShowMore of={faults} />
    </>
  );
}

function Said({ said }: { said: TextFault['said'] }) {
  switch (said.fault) {
    case 'language':
      return <>reads as {sayLanguage(said.language)}</>;
    case 'repeated':
      return (
        <Box maxWide={230}>
          {said.share} % the same as <PlaceLink product={said.other} kind="family" sku={null} title={said.otherTitle} />
          <Box small muted>
            {said.isSibling ? 'of its own family' : 'of another family'}
            {said.others > 1 && `; so are ${count(said.others - 1)} more`}
          </Box>
        </Box>
      );
    case 'hard':
      return (
        <Box maxWide={230}>
          {said.sentence ? `a sentence of ${said.words} words` : `long words in long sentences`}
          <Box small muted>
            readability {said.lix}, of which 60 and more is hard
          </Box>
        </Box>
      );
  }
}
