/** One fill: its rule and steps, with what they give on real goods, tried as one types. */
import { Box } from '../design/Box';
import Button from '@mui/material/Button';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, api } from '@velvet-shelf/contract';
import { type Fill, type FillRule, fillSchema, isWholeRule, stepsFor } from '@velvet-shelf/core/fills';
import { isMarkup } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { ask } from '../api/ask';
import { call } from '../api/call';
import { ProblemBox, useTell } from '../design/feedback';
import { keepOwn } from '../dictionary/keepOwn';
import { count, plural, sayBecoming } from '../design/words';
import { FillParts } from './FillParts';
import { FillSlots } from './FillSlots';
import { type FillAt, forAll, isAt } from './fillAt';
import { RuleCards } from './RuleCards';
import { ShopperView } from './ShopperView';
import { StepsEditor } from './StepsEditor';

/** From so many listings on, first figures are asked for. */
const manyListings = 5000;
/** Texts that are shown as a shopper sees them. */
const mostSeen = 3;

export function FillEditor({
  placeId,
  attribute,
  at,
  within,
  onAt,
}: {
  placeId: number;
  attribute: ChannelAttributeAnswer;
  /** Counted in this category of the channel alone. */
  within: string | undefined;
  /** The goods it is for. */
  at: FillAt;
  onAt: (at: FillAt) => void;
}) {
  const places = useQuery(ask(api.channels.places));
  const held = attribute.slots.find((slot) => isAt(slot, at))?.fill ?? null;
  // One for fewer goods begins as the one that holds for them until now.
  const [fill, setFill] = useState<Fill | null>(held ?? (isAt(at, forAll) ? null : attribute.fill));
  const params = { id: placeId, attribute: attribute.key };
  const queries = useQueryClient();
  const tell = useTell();
  const changed = JSON.stringify(fill) !== JSON.stringify(held);
  const isWhole = fill === null || (isWholeRule(fill.rule) && fillSchema.safeParse(fill).success);
  const body = { fill, ...at, ...(within === undefined ? {} : { within }) };
  const tried = useQuery({
    ...ask(api.channels.tryFill, { params, body }),
    enabled: changed && isWhole,
    placeholderData: keepPreviousData,
  });
  const place = places.data?.items.find(({ id }) => id === placeId);
  const listings = (place?.totals ?? []).reduce((sum, total) => sum + total.listings, 0);
  // On a large shelf the first figures come long before all of them.
  const isCounting = changed && isWhole && (tried.isPlaceholderData || !tried.data);
  const first = useQuery({
    ...ask(api.channels.tryFill, { params, body: { ...body, few: true } }),
    enabled: isCounting && listings > manyListings,
  });
  const save = useMutation({
    mutationFn: (to: Fill | null) => call(api.channels.saveFill, { params, body: { fill: to, ...at } }),
    onSuccess: (effect) => {
      tell(
        `Saved; ${plural(effect.listingsChanged, 'listing')} re-checked${effect.becameReady > 0 ? `, ${count(effect.becameReady)} became ready` : ''}${effect.becameBlocked > 0 ? `, ${count(effect.becameBlocked)} became blocked` : ''}`,
      );
      void queries.invalidateQueries();
    },
  });
  const own = useMutation({
    mutationFn: () => keepOwn(placeId, { ...attribute, field: attribute.key }, 'variant'),
    onSuccess: (key) => {
      tell(`${attribute.label} is an attribute of ours now, and feeds the channel`);
      if (key !== undefined) setRule({ kind: 'copy', from: key });
      void queries.invalidateQueries();
    },
  });
  const shown = isCounting && first.data ? first.data : changed && tried.data ? tried.data : attribute;
  const laidOut = shown.samples.filter(({ value }) => value !== null && isMarkup(value)).slice(0, mostSeen);
  const setRule = (rule: FillRule) => setFill({ rule, fit: fill?.fit ?? [] });
  return (
    <Box col grow surface="card">
      <Box grow scroll pad={[3.5, 6]}>
        <h2>{attribute.label}</h2>
        <Box as="p" muted around={[0.5, 0, 3]}>
          {[attribute.need, ...attribute.limits].join(' · ')}
          {attribute.help && <>. {attribute.help}</>}
        </Box>
        <FillSlots place={place} attribute={attribute} at={at} onAt={onAt} />
        <FillParts
          key={attribute.key}
          placeId={placeId}
          attribute={shown}
          at={at}
          tried={changed && isWhole ? { fill, ...at } : undefined}
          within={within}
        >
          <RuleCards
            key={JSON.stringify(at)}
            rule={fill?.rule}
            attribute={shown}
            at={at}
            isCounted={!changed || (tried.isSuccess && !tried.isPlaceholderData)}
            onChange={setRule}
          />
          {fill?.rule.kind === 'fixed' && shown.covers && (
            <Box row above={2} pad={[2, 3]} rounded surface="advice" role="status">
              <Box grow small>
                All of them get this one value, and their own {shown.covers.label} differs:{' '}
                {shown.covers.examples.map(({ text, goods }) => `${text} on ${count(goods)}`).join(', ')}
                {shown.covers.distinct > shown.covers.examples.length &&
                  ` and ${count(shown.covers.distinct - shown.covers.examples.length)} more`}
                .
              </Box>
              <Button
                variant="outlined"
                onClick={() => shown.covers && setRule({ kind: 'copy', from: shown.covers.from })}
              >
                Copy {shown.covers.label} instead
              </Button>
            </Box>
          )}
          {fill === null && attribute.own && isAt(at, forAll) && (
            <Box row above={2} below={2} gap={3}>
              <Box grow small muted>
                Where nothing of yours says it, it can be an attribute of yours
                {attribute.own.values.length > 0 &&
                  `, with the ${plural(attribute.own.values.length, 'value')} of its list`}
                : filled in with the goods, and copied from there.
              </Box>
              <Button color="secondary" disabled={own.isPending} onClick={() => own.mutate()}>
                Keep it as an attribute of ours
              </Button>
            </Box>
          )}
          {fill && stepsFor(attribute.type).length > 0 && (
            <StepsEditor attribute={attribute} fit={fill.fit} onChange={(fit) => setFill({ ...fill, fit })} />
          )}
        </FillParts>
        {laidOut.length > 0 && (
          <>
            <Box as="h3" around={[4, 0, 1.5]}>
              As a shopper sees it
            </Box>
            {laidOut.map(({ listingId, title, value }) => (
              <ShopperView key={listingId} title={title} html={value ?? ''} tags={attribute.tags} />
            ))}
          </>
        )}
        {(save.error ?? own.error ?? tried.error) && <ProblemBox error={save.error ?? own.error ?? tried.error} />}
      </Box>
      <div className="effect">
        <Box grow>
          <Box serif textSize={18}>
            {count(shown.filled)} filled, {count(shown.missing)} empty
            {changed && shown.effect && ` · ${sayBecoming(shown.effect)}`}
          </Box>
          <Box muted small>
            {!changed
              ? 'As it is now.'
              : !isCounting
                ? 'Tried on the whole assortment, not saved.'
                : shown.looked === null
                  ? 'Trying it on the whole assortment…'
                  : `First figures, of ${count(shown.looked)} of ${count(listings)} listings; the rest is being counted.`}
          </Box>
        </Box>
        {held && !isAt(at, forAll) && (
          <Button
            color="inherit"
            disabled={save.isPending}
            onClick={() => save.mutate(null, { onSuccess: () => onAt(forAll) })}
          >
            Take it away
          </Button>
        )}
        <Button variant="outlined" color="inherit" disabled={!changed} onClick={() => setFill(held)}>
          Put back
        </Button>
        <Button variant="contained" disabled={!changed || !isWhole || save.isPending} onClick={() => save.mutate(fill)}>
          Save
        </Button>
      </div>
    </Box>
  );
}
