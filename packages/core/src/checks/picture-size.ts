import type { Params, ValueCheck } from './model.js';

/** “Lens has 320 × 320 pixels; at least 720 × 720” */
export const saySize = ({ width = 0, height = 0, minWidth = 0, minHeight = 0 }: Params, label: string): string =>
  `${label} has ${width} × ${height} pixels; at least ${minWidth} × ${minHeight}`;

export const pictureSize: ValueCheck = {
  meta: {
    id: 'picture-size',
    severity: 'blocker',
    describes: 'A picture has fewer pixels than the channel asks for.',
    fix: 'catalog',
    fault: 'are too small',
    say: (params, label) => `${saySize(params, label)} are needed`,
  },
  compile({ type, limits: { minWidth = 0, minHeight = 0 } }) {
    if (type !== 'picture' || (minWidth === 0 && minHeight === 0)) return undefined;
    return (value) => {
      if (typeof value !== 'object' || value.kind !== 'pictures') return undefined;
      for (const { width, height } of value.pictures)
        if (width !== undefined && height !== undefined && (width < minWidth || height < minHeight))
          return { width, height, minWidth, minHeight };
      return undefined;
    };
  },
  examples: {
    attribute: { type: 'picture', limits: { minWidth: 600, minHeight: 600 } },
    pass: [
      { kind: 'pictures', pictures: [{ address: 'a', width: 600, height: 800 }] },
      { kind: 'pictures', pictures: [{ address: 'not measured yet' }] },
    ],
    fail: [{ kind: 'pictures', pictures: [{ address: 'a', width: 599, height: 800 }] }],
  },
};
