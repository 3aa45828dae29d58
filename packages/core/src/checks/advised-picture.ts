import type { ValueCheck } from './model.js';
import { pictureShape } from './picture-shape.js';
import { pictureSize, saySize } from './picture-size.js';

export const advisedPicture: ValueCheck = {
  meta: {
    id: 'advised-picture',
    severity: 'advice',
    describes: 'A picture is smaller than the channel advises, or of another shape; it is taken all the same.',
    fix: 'catalog',
    fault: 'are smaller, or of another shape, than is best',
    say: (params, label) =>
      'ratio' in params ? `${pictureShape.meta.say(params, label)} best` : `${saySize(params, label)} are best`,
  },
  compile(attribute, rulebook) {
    const { advised } = attribute;
    if (!advised) return undefined;
    const tests = [pictureSize, pictureShape].flatMap(
      (check) => check.compile({ ...attribute, limits: advised }, rulebook) ?? [],
    );
    if (tests.length === 0) return undefined;
    return (value) => {
      for (const test of tests) {
        const fault = test(value);
        if (fault) return fault;
      }
      return undefined;
    };
  },
  examples: {
    attribute: { type: 'picture', advised: { minWidth: 800, minHeight: 800, minRatio: 1, maxRatio: 1 } },
    pass: [{ kind: 'pictures', pictures: [{ address: 'a', width: 800, height: 800 }] }],
    fail: [
      { kind: 'pictures', pictures: [{ address: 'a', width: 700, height: 700 }] },
      { kind: 'pictures', pictures: [{ address: 'a', width: 1200, height: 800 }] },
    ],
  },
};
