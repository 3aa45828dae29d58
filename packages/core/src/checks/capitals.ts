import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type ValueCheck, ofText, rulesOf } from './model.js';

const settings = z.strictObject({ attributes: z.array(z.string()) });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'capitals', settings);

export const capitals: ValueCheck = {
  meta: {
    id: 'capitals',
    severity: 'blocker',
    describes: 'A text is written in capitals throughout.',
    fix: 'fit',
    fault: 'is in capitals',
    step: 'sentence-case',
    limit: 'capitals',
    say: (_params, label) => `${label} is written in capitals`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ attributes }) => attributes),
  compile({ key }, rulebook) {
    if (!rules(rulebook).some(({ attributes }) => attributes.includes(key))) return undefined;
    return ofText((text) => (mostlyCapitals(text) ? {} : undefined));
  },
  examples: {
    attribute: { key: 'title' },
    rules: [{ check: 'capitals', attributes: ['title'] }],
    pass: ['Moss pot 12 CM', 'LED', 'ÖLAND pot and saucer'],
    fail: ['MOSS POT 12 CM', 'ÖLAND-KRUKA GRÖN 12 cm'],
  },
};

/** Six letters at least, of which four fifths are capitals. */
function mostlyCapitals(text: string): boolean {
  let small = 0;
  let large = 0;
  for (let i = 0; i < text.length; i++) {
    const letter = text.charAt(i);
    if (letter >= 'a' && letter <= 'z') {
      if (++small > text.length / 4) return false;
    } else if (letter >= 'A' && letter <= 'Z') large++;
    else if (letter > '\u00bf') {
      if (letter === letter.toLowerCase()) small++;
      else large++;
    }
  }
  return large >= 6 && large / (large + small) >= 0.8;
}
