/** schema.org JSON-LD, alone or out of the script elements of an HTML page. */
import { z } from 'zod';
import type { ReadFormat } from './model.js';
import { encoding, style, variantPath } from './settings.js';

/** What stands before the first element of a page or document: a declaration, comments, a document type. */
const prolog = /^(?:\s|<\?xml[^>]*\?>|<!--[\s\S]*?-->)*/;
/** A page begins with its document type or with an element that only pages have. */
const page =
  /^<(?:!doctype\s+html|(?:html|head|body|meta|script|style|div|span|table|tbody|tr|h[1-6]|ul|ol|nav|center|font)\b)/i;
const context = /"@context"\s*:\s*(?:\[\s*)?\{?"?(?:[^"]*"\s*:\s*")?https?:\/\/schema\.org/;

export const jsonld = {
  name: 'jsonld',
  label: 'schema.org JSON-LD',
  schema: z.strictObject({ format: z.literal('jsonld'), encoding, variantPath, ...style }),
  claims(start: string) {
    if (page.test(start.replace(prolog, ''))) return 'it is a web page; its schema.org descriptions are read';
    return /^[[{]/.test(start) && context.test(start) ? 'its context is schema.org' : undefined;
  },
} as const satisfies ReadFormat;
