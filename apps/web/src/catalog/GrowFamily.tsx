/** More variants of a family: the combinations nobody has, and those that new values of its options open. */
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ProductAnswer, api, mostByHand } from '@velvet-shelf/contract';
import {
  axesOf,
  beginningOf,
  combinationsOf,
  newValues,
  numbersOf,
  openCombinations,
  orderValues,
  readValueList,
} from '@velvet-shelf/core/catalog';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { useCompany } from '../company/company';
import { Box } from '../design/Box';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { count, plural } from '../design/words';
import { OverLimits } from './OverLimits';
import { asSent, faultsOfVariants, rowsOf, sayMany, sayTooMany, sayValues } from './made';
import { type Laid, type Said, VariantTable } from './VariantTable';

/** `make`: the combination one came for, as its row is named. */
export function GrowFamily({ id, make }: { id: number; make: string | undefined }) {
  const family = useQuery(ask(api.catalog.product, { params: { id } }));
  return <Loaded query={family}>{(product) => <Growing family={product} wanted={make} />}</Loaded>;
}

function Growing({ family, wanted }: { family: ProductAnswer; wanted: string | undefined }) {
  const {
    languages: [language],
    manyValues,
  } = useCompany();
  const queries = useQueryClient();
  const tell = useTell();
  const navigate = useNavigate();
  const [written, setWritten] = useState<Record<string, string>>({});
  const [said, setSaid] = useState<Record<string, Said>>({});
  const { axes, rows, tooMany } = useMemo(
    () => layOutMore(family, written, { language, wanted, manyValues }),
    [family, written, language, wanted, manyValues],
  );
  const laid = rows.map((row): Laid => ({ ...row, ...said[row.id] }));
  const kept = laid.filter(({ isOut }) => !isOut);
  const make = useMutation({
    mutationFn: () =>
      call(api.byHand.make, {
        body: {
          family: family.id,
          shared: [],
          axes: axes.map(({ key }) => key),
          variants: kept.map(asSent),
        },
      }),
    onSuccess: () => {
      tell(`Made ${plural(kept.length, 'variant')}`);
      void queries.invalidateQueries();
      void navigate(`/catalog/product/${family.id}`);
    },
  });
  const faults = faultsOfVariants(make.error, kept);
  if (axes.length === 0)
    return (
      <Empty title="Nothing tells its variants apart">
        Give them options in your own sheet first, and bring it in again.
      </Empty>
    );
  return (
    <>
      <Box as="p" muted around={[0, 0, 3]}>
        More variants of <Link to={`/catalog/product/${family.id}`}>{family.title}</Link>. What is not said here –
        category, material, texts – each takes over from the sibling next to it.
      </Box>
      <Box columns="340px minmax(0, 1fr)" gap={8} align="start">
        <Box columns gap={3.5}>
          {axes.map(({ key, values, words }) => (
            <Box key={key}>
              <h2>{key}</h2>
              <Box small muted around={[0.5, 0, 2.5]}>
                {values.join(' · ')}
              </Box>
              <TextField
                fullWidth
                multiline
                maxRows={5}
                label={`New values of ${key}`}
                value={written[key] ?? ''}
                onChange={({ target }) => setWritten((all) => ({ ...all, [key]: target.value }))}
                helperText={words ?? 'Paste a list: one a line, or parted by commas, semicolons or tabs'}
              />
            </Box>
          ))}
          <Box row>
            <Button
              variant="contained"
              disabled={make.isPending || kept.length === 0 || kept.length > mostByHand}
              onClick={() => make.mutate()}
            >
              Make {plural(kept.length, 'variant')}
            </Button>
            <Button color="inherit" component={Link} to={`/catalog/product/${family.id}`}>
              Cancel
            </Button>
          </Box>
          {faults.other.map((words) => (
            <ProblemBox key={words} error={words} title="Nothing was made" />
          ))}
          <OverLimits variants={family.siblings.length + kept.length} />
          {tooMany !== undefined && <ProblemBox error={tooMany} title="Too many at once" />}
        </Box>
        {laid.length === 0 ? (
          <Empty title="Every combination has its variant">Give an option a new value.</Empty>
        ) : (
          <VariantTable
            axes={axes.map(({ key }) => key)}
            rows={laid}
            faults={faults.variants}
            onSay={(id, to) => setSaid((all) => ({ ...all, [id]: { ...all[id], ...to } }))}
          />
        )}
      </Box>
    </>
  );
}

interface AxisShown {
  key: string;
  /** In use, in a shop's order. */
  values: string[];
  /** What is said of the values that were typed. */
  words: string | undefined;
}

/** Combinations of values in use are there to be chosen; those that a new value opens are meant to be made. */
function layOutMore(
  { siblings, values }: ProductAnswer,
  written: Readonly<Record<string, string>>,
  { language, wanted, manyValues }: { language: string | undefined; wanted: string | undefined; manyValues: number },
): { axes: AxisShown[]; rows: Laid[]; tooMany: string | undefined } {
  const variants = siblings.map(({ id, options }) => ({ id, options: Object.fromEntries(options) }));
  const axes = axesOf(variants, values).map(({ key, kind }) => {
    const held = variants.flatMap(({ options }) => options[key] ?? []);
    const used = orderValues(newValues([], held, kind).fresh, { kind, language });
    return { key, kind, used, ...newValues(used, readValueList(written[key] ?? ''), kind) };
  });
  const laid = axes.map(({ key, kind, used, fresh }) => ({ key, kind, values: [...used, ...fresh] }));
  const shown = axes.map(({ key, used, fresh, there }) => ({
    key,
    values: used,
    words:
      fresh.length + there.length === 0
        ? undefined
        : [
            sayValues(plural(fresh.length, 'new value'), there, 'there already'),
            ...sayMany(used.length + fresh.length, manyValues).map(
              (many) => `${count(used.length + fresh.length)} in all, ${many}`,
            ),
          ].join(' · '),
  }));
  const n = combinationsOf(laid);
  if (n > mostByHand + variants.length) return { axes: shown, rows: [], tooMany: sayTooMany(n, mostByHand) };
  const fresh = axes.map((axis) => new Set(axis.fresh));
  const combinations = openCombinations(laid, variants, mostByHand, language);
  const taken = siblings.flatMap(({ sku }) => sku ?? []);
  return {
    axes: shown,
    rows: rowsOf(combinations, numbersOf(beginningOf(taken), combinations, taken), (row) => ({
      isOut: JSON.stringify(row) !== wanted && !row.some((value, axis) => fresh[axis]?.has(value)),
    })),
    tooMany: undefined,
  };
}
