/** Names of attributes as they stand inside a sentence. */

/** "Title" → "title", "GTIN" and "MPN" as they are. */
export const sayLabel = (label: string): string =>
  /^\p{Lu}\p{Ll}/u.test(label) ? label.charAt(0).toLowerCase() + label.slice(1) : label;
