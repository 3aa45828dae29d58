/** Everything any channel asks of a product, entered once for all of them: what is missing first. */
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Ask, type AskedLine as Line, type ProductAnswer, type SheetColumn, api } from '@velvet-shelf/contract';
import { identifyingRoles } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { ask } from '../../api/ask';
import { Box } from '../../design/Box';
import { keepOwn } from '../../dictionary/keepOwn';
import { Loaded, ProblemBox, useTell } from '../../design/feedback';
import { plural } from '../../design/words';
import { AskedLine, type Writing } from './AskedLine';
import type { Draft } from './draft';
import { signsOf } from './signs';

interface AskedProps {
  /** Of whom it is asked: a family for all its variants, or one of them. */
  product: ProductAnswer;
  columns: readonly SheetColumn[];
  draft: Draft;
}

export function Asked({ product, ...rest }: AskedProps) {
  const asked = useQuery(ask(api.asked.ofProduct, { params: { id: product.id } }));
  return (
    <Loaded query={asked}>
      {({ listings, lines }) =>
        listings === 0 ? (
          <Box as="p" muted>
            It is in no channel’s assortment: nobody asks for anything.
          </Box>
        ) : (
          <Lines lines={lines} product={product} {...rest} />
        )
      }
    </Loaded>
  );
}

const isOpen = ({ asks }: Line) =>
  asks.some(({ need, missing, findings }) => (missing > 0 && need !== 'optional') || findings.length > 0);

function Lines({ lines, product, columns, draft }: AskedProps & { lines: readonly Line[] }) {
  // What was missing when the page came stays in sight while one writes it.
  const [shows, setShows] = useState<'open' | 'all'>('open');
  const queries = useQueryClient();
  const tell = useTell();
  const proposals = useQuery(ask(api.enrichment.proposals, { params: { id: product.id } }));
  const own = useMutation({
    mutationFn: (field: Ask) => keepOwn(field.placeId, field, product.kind === 'family' ? 'family' : 'variant'),
    onSuccess: (_, { label }) => {
      void queries.invalidateQueries();
      tell(`${label} is an attribute of ours now, and feeds the channel`);
    },
  });
  const open = lines.filter(isOpen);
  const shown = shows === 'open' ? open : lines;
  const places = lines.flatMap(({ asks }) => asks);
  const signs = signsOf([...new Map(places.map((each) => [each.placeId, each])).values()]);
  const legend = [...new Map(places.map(({ placeId, place }) => [placeId, place]))];
  return (
    <>
      <Box row wrap gap={2} above={2}>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={shows}
          aria-label="Lines shown"
          onChange={(_, to: 'open' | 'all' | null) => to && setShows(to)}
        >
          <ToggleButton value="open" sx={{ py: 0.2 }}>
            Missing or wrong {open.length}
          </ToggleButton>
          <ToggleButton value="all" sx={{ py: 0.2 }}>
            All {lines.length}
          </ToggleButton>
        </ToggleButtonGroup>
        <Box small muted row wrap gap={[0, 2]}>
          {legend.map(([id, place]) => (
            <span key={id}>
              <b>{signs.get(id)}</b> {place}
            </span>
          ))}
        </Box>
      </Box>
      <Box row gap={3} small muted above={1}>
        <span>
          <span className="ask required">A</span> must be there
        </span>
        <span>
          <span className="ask recommended">A</span> better there
        </span>
        <span>
          <span className="ask optional">A</span> may be there
        </span>
      </Box>
      {own.error && <ProblemBox error={own.error} />}
      {shown.length === 0 && (
        <Box as="p" tone="ready">
          Nothing that any channel asks for is missing or wrong.
        </Box>
      )}
      <Box as="ul" unmarked aria-label="What channels ask for">
        {shown.map((line) => {
          const column = columns.find(
            ({ read, attribute, language }) =>
              read !== null && attribute === line.attribute && language === line.language,
          );
          return (
            <AskedLine
              key={`${line.attribute ?? `field ${line.asks[0]?.placeId} ${line.asks[0]?.field}`} ${line.language}`}
              line={line}
              signs={signs}
              column={column}
              writing={column && writingOf(line, column, product, draft)}
              proposal={
                line.language === null
                  ? proposals.data?.items.find(({ attribute }) => attribute === line.attribute)
                  : undefined
              }
              onOwn={(field) => own.mutate(field)}
            />
          );
        })}
      </Box>
    </>
  );
}

/** How a line is written: for the product itself, or for those of a family's variants that are without it. */
function writingOf(line: Line, { slot, read }: SheetColumn, product: ProductAnswer, draft: Draft): Writing | undefined {
  const isSpread = product.kind === 'family' && read?.level === 'variant';
  const without = line.held?.without ?? [];
  // What names one thing alone is said of one thing.
  const isShared = !read?.role || !identifyingRoles.has(read.role);
  if (isSpread && (without.length === 0 || (without.length > 1 && !isShared))) return undefined;
  const goods = isSpread ? without : [product.id];
  const held = isSpread
    ? ''
    : (product.values.find(({ attribute, language }) => attribute === line.attribute && language === line.language)
        ?.text ?? '');
  return {
    text: draft.written(goods, slot) ?? held,
    onWrite: (text) => draft.write(goods, slot, text, held),
    fault: draft.faultOf(goods, slot),
    goods:
      isSpread && without.length < (line.held?.of ?? 0)
        ? `for ${plural(without.length, 'variant')} without it; the others keep theirs`
        : isSpread
          ? `for each of ${plural(without.length, 'variant')}`
          : undefined,
  };
}

/** What is written and not saved: what saving it would do, and the ways on. */
export function AskedFoot({
  draft,
  canSave,
  onSave,
  next,
}: {
  draft: Draft;
  canSave: boolean;
  onSave: () => void;
  next: string | undefined;
}) {
  const { values, goods, effect, error, insist } = draft;
  return (
    <Box surface="brass" line="top" pad={[3, 5]}>
      {error !== null && error !== undefined && <ProblemBox error={error} />}
      {insist && (
        <Button color="secondary" onClick={insist}>
          Write mine over theirs
        </Button>
      )}
      <Box row gap={5}>
        <Box grow>
          <Box serif textSize={18} strong>
            {plural(values, 'value')}, {plural(goods, 'product')}
          </Box>
          <Box small muted role="status">
            {draft.hasFaults
              ? 'What is wrong above cannot be saved.'
              : effect
                ? `${plural(effect.becameReady, 'listing becomes', 'listings become')} ready, ${plural(effect.becameBlocked, 'listing becomes', 'listings become')} blocked${effect.whole ? '' : ', of those that could be tried'}`
                : 'trying what it would do…'}
          </Box>
        </Box>
        <Button variant="outlined" color="inherit" onClick={draft.putBack}>
          Put back
        </Button>
        <Button variant="contained" disabled={!canSave} onClick={onSave}>
          {next === undefined ? 'Save' : `Save and ${next}`}
        </Button>
      </Box>
    </Box>
  );
}
