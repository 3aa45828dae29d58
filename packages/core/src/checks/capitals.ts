import type { ValueCheck } from './model.js';

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
  compile({ key }, rulebook) {
    if (!rulebook.rules.some((rule) => rule.check === 'capitals' && rule.attributes.includes(key))) return undefined;
    return (value) => (typeof value === 'string' && mostlyCapitals(value) ? {} : undefined);
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
