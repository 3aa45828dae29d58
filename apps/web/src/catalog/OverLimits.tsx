/** Channels that take fewer variants in one family than it comes to, told before they are made. */
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { ask } from '../api/ask';
import { Box } from '../design/Box';
import { count } from '../design/words';

/** `variants`: of the whole family, those there are among them. */
export function OverLimits({ variants }: { variants: number }) {
  const places = useQuery(ask(api.channels.places));
  const most = new Map(places.data?.items.map(({ channelName, mostInFamily }) => [channelName, mostInFamily]));
  const over = [...most].filter((each): each is [string, number] => each[1] !== null && variants > each[1]);
  if (over.length === 0) return null;
  return (
    <Box surface="advice" pad={[2, 3]} rounded small role="status">
      {over.map(([channel, taken]) => (
        <div key={channel}>
          {channel} takes {count(taken)} variants in one family; with these it has {count(variants)}, and none of them
          could be sent there.
        </div>
      ))}
    </Box>
  );
}
