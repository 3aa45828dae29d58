/** How goods stand at their places, as one word. */

interface Standing {
  readiness: string;
  channelState: string;
}

/** The states a listing can be in for whoever looks at goods, worst first. */
const order = ['refused', 'blocked', 'ready', 'live', 'not for this channel'];

const stateOf = ({ readiness, channelState }: Standing): string =>
  channelState === 'refused'
    ? 'refused'
    : readiness === 'blocked'
      ? 'blocked'
      : channelState === 'live'
        ? 'live'
        : readiness;

/** Each state with how many listings are in it, the worst first. */
export function statesOf(places: readonly (Standing & { listings?: number })[]): [state: string, listings: number][] {
  const states = new Map<string, number>();
  for (const { listings = 1, ...place } of places)
    states.set(stateOf(place), (states.get(stateOf(place)) ?? 0) + listings);
  return [...states].sort((a, b) => order.indexOf(a[0]) - order.indexOf(b[0]));
}
