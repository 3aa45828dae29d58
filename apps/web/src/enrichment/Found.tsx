/** Values found in the texts of many goods: by attribute, each with its words, taken singly or all that are sure, or turned down. */
import Button from '@mui/material/Button';
import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import { type FoundAnswer, type TakenValues, api } from '@velvet-shelf/contract';
import { sayLanguage } from '@velvet-shelf/core/values';
import { Link } from 'react-router';
import { z } from 'zod';
import { inAddress, useAddress } from '../api/address';
import { askPages } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { ShowMore } from '../design/ShowMore';
import { count, plural, sayBecoming } from '../design/words';
import { Progress, SideChoice, useJobOf } from './parts';

/** From here on they are taken together. */
const sure = 0.9;
const pageRows = 100;

const foundAddress = z.object({ attribute: inAddress.text, gaps: inAddress.flag });

export function Found() {
  const [{ attribute, gaps }, set] = useAddress(foundAddress);
  const found = useInfiniteQuery(
    askPages(api.enrichment.found, {
      query: { limit: pageRows, attribute, ...(gaps ? { gaps: 'yes' as const } : {}) },
    }),
  );
  const job = useJobOf('find-values');
  const attributes = found.data?.pages[0]?.attributes ?? [];
  const all = attributes.reduce((sum, { open }) => sum + open, 0);
  const items = found.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <Box row align="stretch" gap={0} grow minHigh={0}>
      <Box as="section" wide={280} fixed scroll line="right" pad={[3.5, 4]} aria-label="Attributes">
        <h1>Found in texts</h1>
        <Box small muted below={3}>
          what titles and descriptions say, and the goods do not have
        </Box>
        <SideChoice label="All" n={all} isOn={attribute === undefined} onChoose={() => set({ attribute: undefined })} />
        {attributes.map(({ attribute: key, label, open }) => (
          <SideChoice
            key={key}
            label={label}
            n={open}
            isOn={attribute === key}
            onChoose={() => set({ attribute: key })}
          />
        ))}
      </Box>
      <Box as="section" col grow scroll minWide={0} pad={[3.5, 5]} aria-label="Values">
        <Progress kind="find-values" />
        <Loaded query={found}>
          {() =>
            items.length === 0 ? (
              <Empty title={job ? 'Still reading' : 'Nothing waits here'}>
                Choose goods in the <Link to="/catalog">catalog</Link>, and let their texts be read.
              </Empty>
            ) : (
              <Values
                items={items}
                sureOnes={attributes
                  .filter((each) => attribute === undefined || each.attribute === attribute)
                  .reduce((sum, each) => sum + each.sure, 0)}
                attribute={attribute}
                gaps={gaps}
                onGaps={(to) => set({ gaps: to })}
              />
            )
          }
        </Loaded>
        <ShowMore of={found} />
      </Box>
    </Box>
  );
}

function Values({
  items,
  sureOnes,
  attribute,
  gaps,
  onGaps,
}: {
  items: readonly FoundAnswer[];
  /** That would fill an empty place. */
  sureOnes: number;
  attribute: string | undefined;
  gaps: boolean;
  onGaps: (to: boolean) => void;
}) {
  const queries = useQueryClient();
  const tell = useTell();
  const take = useMutation({
    mutationFn: (body: TakenValues) => call(api.enrichment.take, { body }),
    onSuccess: ({ taken, left, ...effect }) => {
      void queries.invalidateQueries();
      tell(
        `Took ${plural(taken, 'value')}; ${sayBecoming(effect, true)}${left > 0 ? `; ${plural(left, 'one', 'ones')} left, because the goods hold something else by now` : ''}`,
      );
    },
  });
  const decline = useMutation({
    mutationFn: (id: number) => call(api.enrichment.decline, { body: { ids: [id] } }),
    onSuccess: () => void queries.invalidateQueries(),
  });
  const isBusy = take.isPending || decline.isPending;
  return (
    <>
      <Box row wrap below={3}>
        <Button
          variant="contained"
          disabled={sureOnes === 0 || isBusy}
          onClick={() => take.mutate({ attribute: attribute ?? null, least: sure })}
        >
          Take {count(sureOnes)} of {Math.round(sure * 100)} % and above
        </Button>
        <Box small muted>
          that fill an empty place; one step, taken back as one
        </Box>
        <Box grow />
        <Button color="inherit" aria-pressed={gaps} onClick={() => onGaps(!gaps)}>
          {gaps ? 'Show those with another value too' : 'Only empty places'}
        </Button>
      </Box>
      {(take.error ?? decline.error) && <ProblemBox error={take.error ?? decline.error} title="Nothing was taken" />}
      <DataTable
        label="Values found in texts"
        look={{ surface: 'card' }}
        rows={items}
        keyOf={({ id }) => String(id)}
        columns={[
          {
            head: 'Product',
            cell: ({ product, kind, sku, title }) => (
              <Link className="plain" to={`/catalog/product/${product}${kind === 'variant' ? '?level=variant' : ''}`}>
                <Box cut maxWide={190} title={title ?? ''}>
                  {title ?? 'no title'}
                </Box>
                <Box small muted>
                  {sku ?? (kind === 'family' ? 'family' : 'no SKU')}
                </Box>
              </Link>
            ),
          },
          {
            head: 'Value',
            cell: ({ label, shown, held }) => (
              <>
                <Box small muted>
                  {label}
                </Box>
                <b>{shown}</b>
                {held !== null && (
                  <Box small tone="advice">
                    where it has {held}
                  </Box>
                )}
              </>
            ),
          },
          {
            head: 'Words',
            cell: ({ evidence: { language, in: part, before, words, after } }) => (
              <Box small>
                {before}
                <mark>{words}</mark>
                {after}
                <Box muted>
                  {part}, {sayLanguage(language)}
                </Box>
              </Box>
            ),
          },
          { head: 'Sure', cell: ({ score }) => `${Math.round(score * 100)}\u00a0%`, look: { num: true } },
          {
            head: '',
            id: 'Take or turn down',
            cell: ({ id, label, shown, sku }) => (
              <Box row gap={0}>
                <Button
                  disabled={isBusy}
                  aria-label={`Take ${label} ${shown} for ${sku ?? 'it'}`}
                  onClick={() => take.mutate({ ids: [id] })}
                >
                  Take
                </Button>
                <Button
                  color="inherit"
                  disabled={isBusy}
                  aria-label={`${label} of ${sku ?? 'it'} is not ${shown}`}
                  onClick={() => decline.mutate(id)}
                >
                  Not so
                </Button>
              </Box>
            ),
          },
        ]}
      />
    </>
  );
}
