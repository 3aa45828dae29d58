/** A kind of attribute is a file: how its values stand in texts. */
import type { SoughtAttribute } from '../model.js';
import { findChoice } from './choice.js';
import { findCount } from './count.js';
import { findMeasure } from './measure.js';
import type { Finder } from './model.js';
import { findSizes } from './sizes.js';
import { findYesNo } from './yes-no.js';

const finderOf = (attribute: SoughtAttribute): Finder => {
  switch (attribute.kind) {
    case 'choice':
      return findChoice(attribute);
    case 'count':
      return findCount(attribute);
    case 'measure':
      return findMeasure(attribute);
    case 'sizes':
      return findSizes(attribute);
    case 'yesNo':
      return findYesNo(attribute);
  }
};

export const collectFinders = (attributes: readonly SoughtAttribute[]) =>
  attributes.map((attribute) => ({ attribute, find: finderOf(attribute) }));
