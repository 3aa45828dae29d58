/** What stands in a place of the rack: what one looks at of a variant. */
import type { Sibling } from '@velvet-shelf/contract';
import { Box } from '../../design/Box';
import { State } from '../../design/State';
import { Thumb } from '../../design/Thumb';
import { count, money, plural } from '../../design/words';
import { statesOf } from '../listed';
import type { RackShows } from './address';

export function Standing({
  sibling: { price, stock, picture, places, differs, isHidden },
  others,
  shows,
  currency,
}: {
  sibling: Omit<Sibling, 'options'>;
  /** Of the same combination. */
  others: number;
  shows: RackShows;
  currency: string | undefined;
}) {
  const [worst] = statesOf(places);
  const more = others > 0 && <Box tone="advice">and {plural(others, 'more')}</Box>;
  switch (shows) {
    case 'picture':
      return (
        <>
          <Thumb name={picture} size={36} /> {more}
        </>
      );
    case 'listing state':
      return (
        <>
          {statesOf(places)
            .slice(0, 2)
            .map(([state, listings]) => (
              <Box key={state}>
                <State is={state}>
                  {listings} {state === 'not for this channel' ? 'not here' : state}
                </State>
              </Box>
            ))}
          {more}
        </>
      );
    case 'what differs':
      return (
        <>
          {differs.slice(0, 2).map(({ attribute, label, shown }) => (
            <Box cut key={attribute} title={`${label}: ${shown ?? 'empty'}`}>
              {shown ?? `no ${label.toLowerCase()}`}
            </Box>
          ))}
          {differs.length === 0 && <Box muted>as its siblings</Box>}
          {more}
        </>
      );
    case 'price and stock':
      return (
        <>
          <Box row>
            <Box as="b" grow>
              {price === null ? 'no price' : money(price, currency)}
            </Box>
            <Box as="span" tone={stock <= 0 ? 'blocked' : 'muted'}>
              {count(stock)}
            </Box>
          </Box>
          {more || (
            <State is={isHidden ? 'none' : (worst?.[0] ?? 'none')}>
              {isHidden
                ? 'hidden'
                : worst === undefined
                  ? 'nowhere'
                  : worst[0] === 'not for this channel'
                    ? 'not here'
                    : worst[0]}
            </State>
          )}
        </>
      );
  }
}
