/** One of our categories beside the channel's tree: where it stands, what is likely and why, a further category, and goods that stand elsewhere. */
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { type CategoryMapping, type CategoryRow, api } from '@velvet-shelf/contract';
import { type ReactNode, useState } from 'react';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { ProblemBox } from '../design/feedback';
import { State } from '../design/State';
import { plural } from '../design/words';
import { CategoryPick } from './CategoryPick';
import { ChannelTree } from './ChannelTree';
import { Splits } from './Splits';

export function CategoryPanel({
  placeId,
  row,
  rows,
  market,
  isBusy,
  onMap,
}: {
  placeId: number;
  row: CategoryRow;
  rows: readonly CategoryRow[];
  market: string;
  isBusy: boolean;
  onMap: (map: CategoryMapping) => void;
}) {
  const tree = useQuery({ ...ask(api.channels.tree, { params: { id: placeId } }), staleTime: 300_000 });
  const { items = [], leafOnly = false, takesSecond = false, saysPlaces = false } = tree.data ?? {};
  const options = items.filter(({ leaf }) => leaf || !leafOnly);
  const { category, names, target, second } = row;
  const put = (to: string | null) => onMap({ category, target: to });
  return (
    <Box as="section" scroll wide={460} fixed line="left" surface="card" pad={[3, 5]} aria-label={names.join(' / ')}>
      <Box small muted>
        {names.slice(0, -1).join(' / ')}
      </Box>
      <Box row align="baseline">
        <Box as="h2" grow>
          {names.at(-1)}
        </Box>
        <Box small muted>
          {plural(row.variants, 'variant')}
        </Box>
      </Box>
      <Box as="p" around={[1, 0, 2]}>
        {target === null ? (
          <State is="blocked">It stands nowhere in the channel’s tree yet</State>
        ) : (
          <>
            stands in <b>{row.targetNames?.join(' / ')}</b>
          </>
        )}
        {row.fault && (
          <Box>
            <State is="blocked">{row.fault}</State>
          </Box>
        )}
      </Box>
      {row.suggestions.map(({ path, names: of, evidence, score }) => (
        <Suggested key={path} names={of} why={evidence.join(' · ')} isBusy={isBusy} onTake={() => put(path)}>
          {score} %
        </Suggested>
      ))}
      {saysPlaces && row.variants > 0 && (
        <PlacedByChannel key={category} placeId={placeId} category={category} isBusy={isBusy} onTake={put} />
      )}
      {target !== null && takesSecond && (
        <Box above={3}>
          <Box small muted below={1}>
            A further category, where shoppers find it too
          </Box>
          <CategoryPick
            label={`Further category for ${names.join(' / ')}`}
            placeholder="none"
            options={options}
            value={options.find(({ path }) => path === second) ?? null}
            disabled={isBusy}
            onPick={(to) => onMap({ category, target, second: to })}
          />
        </Box>
      )}
      {target !== null && (
        <Splits key={JSON.stringify(row.splits)} placeId={placeId} row={row} market={market} options={options} />
      )}
      <Box above={4}>
        <ChannelTree tree={items} rows={rows} row={row} leafOnly={leafOnly} onPut={put} />
      </Box>
    </Box>
  );
}

/** Asks the channel itself, when a person wants to know. */
function PlacedByChannel({
  placeId,
  category,
  isBusy,
  onTake,
}: {
  placeId: number;
  category: string;
  isBusy: boolean;
  onTake: (path: string) => void;
}) {
  const [isAsked, setAsked] = useState(false);
  const placed = useQuery({
    ...ask(api.channels.placing, { params: { id: placeId }, query: { category } }),
    enabled: isAsked,
    staleTime: 300_000,
    retry: false,
  });
  if (!isAsked)
    return (
      <Button color="secondary" size="small" onClick={() => setAsked(true)}>
        Ask the channel
      </Button>
    );
  if (placed.error) return <ProblemBox error={placed.error} />;
  if (!placed.data)
    return (
      <Box small muted pad={[1.5, 0]}>
        Asking the channel …
      </Box>
    );
  if (placed.data.items.length === 0)
    return (
      <Box small muted pad={[1.5, 0]}>
        The channel knows no category for these goods.
      </Box>
    );
  return placed.data.items.map(({ path, names }) => (
    <Suggested
      key={path}
      names={names}
      why="where the channel itself would put them"
      isBusy={isBusy}
      onTake={() => onTake(path)}
    />
  ));
}

function Suggested({
  names,
  why,
  isBusy,
  onTake,
  children,
}: {
  names: readonly string[];
  why: string;
  isBusy: boolean;
  onTake: () => void;
  /** How likely it is. */
  children?: ReactNode;
}) {
  return (
    <Box row gap={3} pad={[1.5, 0]} line="bottom" align="start">
      <Box grow>
        <Box small strong>
          {names.slice(-2).join(' / ')}
        </Box>
        <Box small muted>
          {why}
        </Box>
      </Box>
      <Box as="span" small num>
        {children}
      </Box>
      <Button
        color="secondary"
        sx={{ p: 0, minWidth: 0 }}
        disabled={isBusy}
        aria-label={`Put it in ${names.join(' / ')}`}
        onClick={onTake}
      >
        Take
      </Button>
    </Box>
  );
}
