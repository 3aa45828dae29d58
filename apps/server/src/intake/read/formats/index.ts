/** Read formats by name: one file a format, and its line here. */
import type { Format, Reading } from '@velvet-shelf/core/tabular';
import { delimited } from './delimited.js';
import { json } from './json.js';
import { jsonl } from './jsonl.js';
import { jsonld } from './jsonld.js';
import type { ReadFormatOf, ReadingOf } from './model.js';
import { xlsx } from './xlsx.js';
import { xml } from './xml.js';

const formats: { [F in Format]: ReadFormatOf<ReadingOf<F>> } = { delimited, xlsx, json, jsonl, xml, jsonld };

/** The format of this name; it must only be handed readings of its own. */
export const formatOf = (format: Format): ReadFormatOf<Reading> => formats[format];
