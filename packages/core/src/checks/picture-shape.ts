import type { ValueCheck } from './model.js';

/** Of width to height, for people: 1.33. */
const say = (ratio: number) => Number(ratio.toFixed(2));

export const pictureShape: ValueCheck = {
  meta: {
    id: 'picture-shape',
    severity: 'blocker',
    describes: 'A picture is wider or taller, for its size, than the channel shows it.',
    fix: 'catalog',
    fault: 'have another shape than is shown',
    say: ({ ratio = 0, least = 0, most = 0 }, label) =>
      `${label} is ${ratio} times as wide as high; ${least === most ? `${least} is` : `${least} to ${most} are`} shown`,
  },
  compile({ type, limits: { minRatio, maxRatio } }) {
    if (type !== 'picture' || (minRatio === undefined && maxRatio === undefined)) return undefined;
    const [least, most] = [minRatio ?? 0, maxRatio ?? Infinity];
    return (value) => {
      if (typeof value !== 'object' || value.kind !== 'pictures') return undefined;
      for (const { width, height } of value.pictures) {
        if (width === undefined || height === undefined || height === 0) continue;
        // One pixel more or less is no other shape.
        const [narrow, wide] = [(width - 1) / height, (width + 1) / height];
        if (wide < least || narrow > most)
          return { ratio: say(width / height), least: say(least), most: most === Infinity ? 'more' : say(most) };
      }
      return undefined;
    };
  },
  examples: {
    attribute: { type: 'picture', limits: { minRatio: 1, maxRatio: 1.5 } },
    pass: [
      { kind: 'pictures', pictures: [{ address: 'a', width: 600, height: 600 }] },
      { kind: 'pictures', pictures: [{ address: 'a', width: 599, height: 600 }, { address: 'not measured' }] },
      { kind: 'pictures', pictures: [{ address: 'a', width: 900, height: 600 }] },
    ],
    fail: [
      { kind: 'pictures', pictures: [{ address: 'a', width: 590, height: 600 }] },
      { kind: 'pictures', pictures: [{ address: 'a', width: 1200, height: 600 }] },
    ],
  },
};
