/** A text that any program can keep: JSON may escape U+0000 and halves of surrogate pairs, which are in no text. */
export const keptText = (text: string): string => text.replaceAll('\0', '').toWellFormed();
