import type { ValueCheck } from './model.js';

export const pictureFormat: ValueCheck = {
  meta: {
    id: 'picture-format',
    severity: 'blocker',
    describes: 'A picture is in a format that the channel does not read.',
    fix: 'catalog',
    fault: 'are in a format that is not read',
    say: ({ format = '', formats = '' }, label) => `${label} is ${format}; ${formats} are read`,
  },
  compile({ type, limits: { formats } }) {
    if (type !== 'picture' || !formats) return undefined;
    const read = new Set(formats);
    return (value) => {
      if (typeof value !== 'object' || value.kind !== 'pictures') return undefined;
      const other = value.pictures.find(({ format }) => format !== undefined && !read.has(format));
      return other && { format: other.format ?? '', formats: formats.join(', ') };
    };
  },
  examples: {
    attribute: { type: 'picture', limits: { formats: ['jpeg', 'png'] } },
    pass: [
      { kind: 'pictures', pictures: [{ address: 'a', format: 'png' }] },
      { kind: 'pictures', pictures: [{ address: 'not read yet' }] },
    ],
    fail: [
      {
        kind: 'pictures',
        pictures: [
          { address: 'a', format: 'jpeg' },
          { address: 'b', format: 'gif' },
        ],
      },
    ],
  },
};
