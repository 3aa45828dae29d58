/** What a fill comes to: one bar of the parts of its goods, by the rule that gives their value, refused, empty; and the goods of a part. */
import { useInfiniteQuery } from '@tanstack/react-query';
import { type ChannelAttributeAnswer, type FillPart, type FillSample, api } from '@velvet-shelf/contract';
import { type Fill, ruleAt } from '@velvet-shelf/core/fills';
import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import { keyOf } from '../api/ask';
import { call } from '../api/call';
import { Box } from '../design/Box';
import { DataTable } from '../design/DataTable';
import { ProblemBox } from '../design/feedback';
import { type BarPart, PartBar } from '../design/PartBar';
import { ShowMore } from '../design/ShowMore';
import { State } from '../design/State';
import { count, plural } from '../design/words';
import { type FillAt, forAll, isAt, sayAt } from './fillAt';
import { useCompared } from './compared';
import { sayFillRule } from './sayFill';

type Part = ChannelAttributeAnswer['parts'][number];

/** Shades follow one another; there are three. */
const shades = ['first', 'second', 'third'] as const;

const keyOfPart = ({ at, path }: Pick<Part, 'at' | 'path'>) => JSON.stringify([at, path]);

/** A fill that is tried, with the goods it is for. */
export type TriedFill = FillAt & { fill: Fill | null };

export function FillParts({
  placeId,
  attribute,
  at,
  tried,
  within,
  children,
}: {
  placeId: number;
  attribute: ChannelAttributeAnswer;
  /** The goods the fill is for: where these are not all, theirs are shown first. */
  at: FillAt;
  /** What stands between the bar and the goods: the rules. */
  children: ReactNode;
  /** Not saved yet. */
  tried: TriedFill | undefined;
  within: string | undefined;
}) {
  const compared = useCompared().data ?? [];
  const mine = isAt(at, forAll) ? undefined : attribute.parts.find((part) => part.at !== null && isAt(part.at, at));
  const [chosen, setChosen] = useState<string | undefined>(mine && keyOfPart(mine));
  const { parts, filled, missing, refused, slots } = attribute;
  const words = (part: Part, i: number): string => {
    const { at, path } = part;
    if (at === null) return 'Pinned';
    const slot = slots.find((each) => isAt(each, at));
    const rule = slot && ruleAt(slot.fill.rule, path);
    const said = rule ? sayFillRule(rule, [...attribute.sources, ...compared]) : 'a fill';
    return `${i + 1} · ${said}${!slot || isAt(slot, forAll) ? '' : `, ${sayAt(slot)}`}`;
  };
  const bar: BarPart[] = [
    ...parts.flatMap((part, i): BarPart[] => {
      const taken = part.goods - part.refused;
      return taken === 0
        ? []
        : [
            {
              key: keyOfPart(part),
              words: `${words(part, i)} ${count(taken)}`,
              of: taken,
              look: part.at === null ? 'pinned' : (shades[i % shades.length] ?? 'first'),
            },
          ];
    }),
    ...(refused > 0
      ? [{ key: 'refused', words: `${count(refused)} refused`, of: refused, look: 'refused' as const }]
      : []),
    ...(missing > 0
      ? [
          {
            key: 'empty',
            words: `${count(missing)} empty`,
            of: missing,
            look: attribute.need === 'required' ? ('empty' as const) : ('unasked' as const),
          },
        ]
      : []),
  ];
  const part = parts.find((each) => keyOfPart(each) === chosen);
  const wanted = chosen === 'refused' || chosen === 'empty' ? chosen : part && { at: part.at, path: part.path };
  return (
    <>
      {bar.length > 0 && <PartBar label="Goods by what fills them" parts={bar} chosen={chosen} onChoose={setChosen} />}
      <Box as="p" small muted around={[1.5, 0, 3]}>
        {bar.length === 0
          ? `No goods of this place are asked for it${within === undefined ? '' : ' in this category'}.`
          : `${plural(filled + missing, 'listing')}, each by the first rule that gives something. Choose a part to see its goods.`}
      </Box>
      {children}
      {wanted === undefined ? (
        <Goods of={attribute.samples} label="What it gives" />
      ) : (
        <PartGoods
          placeId={placeId}
          attribute={attribute.key}
          part={wanted}
          tried={tried}
          within={within}
          words={bar.find(({ key }) => key === chosen)?.words ?? ''}
        />
      )}
    </>
  );
}

function PartGoods({
  placeId,
  attribute,
  part,
  tried,
  within,
  words,
}: {
  placeId: number;
  attribute: string;
  part: 'refused' | 'empty' | FillPart;
  tried: TriedFill | undefined;
  within: string | undefined;
  words: string;
}) {
  const params = { id: placeId, attribute };
  const body = { part, ...(tried ? { tried } : {}), ...(within === undefined ? {} : { within }) };
  const goods = useInfiniteQuery({
    queryKey: keyOf(api.channels.fillGoods, { params, body }),
    queryFn: ({ pageParam }) => call(api.channels.fillGoods, { params, body: { ...body, after: pageParam } }),
    initialPageParam: 0,
    getNextPageParam: ({ next }) => next ?? undefined,
  });
  if (goods.error) return <ProblemBox error={goods.error} />;
  if (goods.isPending)
    return (
      <Box as="p" muted role="status">
        Looking for them…
      </Box>
    );
  return (
    <>
      <Goods of={goods.data.pages.flatMap(({ items }) => items)} label={`Goods of: ${words}`} />
      <ShowMore of={goods} />
    </>
  );
}

/** Characters shown of a value. */
const longest = 150;

function Goods({ of, label }: { of: readonly FillSample[]; label: string }) {
  return (
    <DataTable
      label={label}
      rows={of}
      keyOf={({ listingId }) => listingId}
      columns={[
        {
          head: 'Goods',
          look: { maxWide: 230 },
          cell: ({ listingId, title }) => (
            <Box cut>
              <Link to={`/listings?open=${listingId}`} className="plain">
                {title}
              </Link>
            </Box>
          ),
        },
        {
          head: 'From',
          look: { small: true, maxWide: 170 },
          cell: ({ from }) =>
            from && (
              <Box cut title={from.value ?? undefined}>
                {from.label}{' '}
                <Box as="span" muted>
                  {from.value ?? 'is empty'}
                </Box>
              </Box>
            ),
        },
        {
          head: 'Sent',
          look: { small: true },
          cell: ({ value }) =>
            value === null ? (
              <Box as="span" muted>
                nothing
              </Box>
            ) : (
              <b>{value.length > longest ? `${value.slice(0, longest)}…` : value}</b>
            ),
        },
        {
          head: 'Listing',
          look: { small: true },
          cell: ({ fault, was, becomes }) => (
            <>
              {was !== becomes && (
                <>
                  <State is={was} /> →{' '}
                </>
              )}
              <State is={becomes} />
              {fault && (
                <Box small tone="blocked">
                  {fault}
                </Box>
              )}
            </>
          ),
        },
      ]}
    />
  );
}
