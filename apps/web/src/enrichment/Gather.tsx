/** Families that titles of single products propose, or that somebody chose: named, put right, and made. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import TextField from '@mui/material/TextField';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ProposedFamily, api, mostPlaced, wishedSchema } from '@velvet-shelf/contract';
import { familyTitle } from '@velvet-shelf/core/catalog';
import { useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { Empty, Loaded, ProblemBox, useTell } from '../design/feedback';
import { plural, sayBecoming } from '../design/words';

/** Families shown at once: each is looked at. */
const mostShown = 40;

/** Which goods are meant comes with whoever opens the page; of nothing it is all single products. */
export function Gather() {
  const { state } = useLocation();
  const wished = wishedSchema.safeParse(state).data ?? wishedSchema.parse({});
  const proposed = useQuery({
    ...ask(api.families.propose, { body: wished }),
    staleTime: 'static',
    gcTime: 0,
    retry: false,
  });
  const [done, setDone] = useState<ReadonlySet<number>>(new Set());
  const leave = (families: readonly ProposedFamily[]) => setDone(new Set([...done, ...families.map(keyOf)]));
  return (
    <Box grow scroll pad={[3.5, 5]}>
      <Box row align="baseline" wrap>
        <h1>{wished.asOne ? 'One family of what you chose' : 'Families from titles'}</h1>
        {proposed.data && !wished.asOne && (
          <Box as="span" muted>
            in {plural(proposed.data.goods, 'single product')}
            {wished.chosen ? ' you chose' : ''}
            {proposed.data.whole ? '' : ', the first of them'}
          </Box>
        )}
      </Box>
      <Loaded query={proposed}>
        {({ items, goods }) => {
          const open = items.filter((family) => !done.has(keyOf(family)));
          return open.length === 0 ? (
            <Empty
              title={items.length > 0 ? 'All is done here' : goods > 0 ? 'No titles are alike' : 'Nothing stands alone'}
            >
              Choose goods in the <Link to="/catalog">catalog</Link> that are one family, and make it of them.
            </Empty>
          ) : (
            <Families open={open} asOne={wished.asOne} chosen={wished.chosen} onDone={leave} />
          );
        }}
      </Loaded>
    </Box>
  );
}

/** Each product is in one of them at most. */
const keyOf = ({ members }: ProposedFamily): number => members[0]?.id ?? 0;

const isNamed = ({ axes }: ProposedFamily): boolean => axes.every((axis) => axis !== '');

function useMaking(onMade: (families: readonly ProposedFamily[], made: readonly number[]) => void) {
  const queries = useQueryClient();
  const tell = useTell();
  return useMutation({
    mutationFn: (families: readonly ProposedFamily[]) =>
      call(api.families.gather, {
        body: {
          families: families.map(({ axes, members }) => ({
            axes,
            members: members.map(({ id, values }) => ({ id, values })),
          })),
        },
      }),
    onSuccess: ({ families: made, ...effect }, families) => {
      tell(`Made ${plural(made.length, 'family', 'families')}; ${sayBecoming(effect, true)}`);
      void queries.invalidateQueries({ refetchType: 'none' });
      onMade(families, made);
    },
  });
}

function Families({
  open,
  asOne,
  chosen,
  onDone,
}: {
  open: readonly ProposedFamily[];
  asOne: boolean;
  chosen: unknown;
  onDone: (families: readonly ProposedFamily[]) => void;
}) {
  const navigate = useNavigate();
  const making = useMaking((families, made) => {
    if (asOne) void navigate(`/catalog/product/${made[0] ?? 0}`);
    else onDone(families);
  });
  const sure = open.filter(isNamed);
  const fits = sure.filter(
    (_, i) => sure.slice(0, i + 1).reduce((sum, { members }) => sum + members.length, 0) <= mostPlaced,
  );
  return (
    <>
      {!asOne && (
        <Box row wrap above={2}>
          <Button
            variant="contained"
            disabled={fits.length === 0 || making.isPending}
            onClick={() => making.mutate(fits)}
          >
            Make {plural(fits.length, 'family', 'families')}
          </Button>
          <Box small muted>
            those that attributes tell apart; one step, taken back as one
          </Box>
          <Box grow />
          {chosen !== undefined && (
            <Button
              color="inherit"
              onClick={() => void navigate('/catalog/families', { state: { chosen, asOne: true } })}
            >
              All I chose are one family
            </Button>
          )}
        </Box>
      )}
      {making.error && <ProblemBox error={making.error} title="Nothing was made" />}
      {open.slice(0, mostShown).map((family) => (
        <Proposed
          key={keyOf(family)}
          family={family}
          isBusy={making.isPending}
          onMake={(named) => making.mutate([named])}
          onLeave={() => onDone([family])}
        />
      ))}
      {open.length > mostShown && (
        <Box muted above={3}>
          {plural(open.length - mostShown, 'family', 'families')} more, once these are done
        </Box>
      )}
    </>
  );
}

function Proposed({
  family,
  isBusy,
  onMake,
  onLeave,
}: {
  family: ProposedFamily;
  isBusy: boolean;
  onMake: (family: ProposedFamily) => void;
  onLeave: () => void;
}) {
  const [names, setNames] = useState<readonly string[]>(family.axes);
  const [out, setOut] = useState<ReadonlySet<number>>(new Set());
  const members = family.members.filter(({ id }) => !out.has(id));
  const title = familyTitle(members.map((member) => member.title)) ?? 'A family';
  const isReady = members.length > 1 && names.every((name) => name.trim() !== '');
  return (
    <Box
      as="form"
      surface="card"
      rounded
      above={3}
      pad={[2.5, 3]}
      aria-label={title}
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) onMake({ axes: names.map((name) => name.trim()), members });
      }}
    >
      <Box row wrap align="center" below={1.5}>
        <h2>{title}</h2>
        <Box as="span" muted>
          {plural(members.length, 'product')}
        </Box>
        {names.map((name, i) => (
          <TextField
            key={i}
            size="small"
            label="Told apart by"
            value={name}
            helperText={name.trim() === '' ? 'Say what it is' : undefined}
            onChange={(event) => setNames(names.map((other, at) => (at === i ? event.target.value : other)))}
            sx={{ width: 180 }}
          />
        ))}
        <Box grow />
        <Button type="submit" variant="outlined" disabled={!isReady || isBusy}>
          Make this family
        </Button>
        <Button color="inherit" onClick={onLeave}>
          Leave them single
        </Button>
      </Box>
      <DataTable
        label={`Products of ${title}`}
        rows={family.members}
        keyOf={({ id }) => String(id)}
        columns={[
          {
            head: '',
            id: 'In the family',
            cell: ({ id, sku, title: own }) => (
              <Checkbox
                size="small"
                checked={!out.has(id)}
                onChange={(event) =>
                  setOut(new Set(event.target.checked ? [...out].filter((other) => other !== id) : [...out, id]))
                }
                slotProps={{ input: { 'aria-label': `${sku ?? own} is of it` } }}
              />
            ),
          },
          {
            head: 'Product',
            cell: ({ id, title: own, sku }) => (
              <>
                <Link className="plain" to={`/catalog/product/${id}`}>
                  {own}
                </Link>
                <Box small muted>
                  {sku ?? 'no SKU'}
                </Box>
              </>
            ),
          },
          ...names.map((name, i) => ({
            head: name.trim() === '' ? 'Words of its own' : name,
            id: `axis ${i}`,
            cell: ({ values }: ProposedFamily['members'][number]) =>
              values[i] ?? (
                <Box as="span" muted>
                  nothing
                </Box>
              ),
          })),
        ]}
      />
    </Box>
  );
}
