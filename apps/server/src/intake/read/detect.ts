/** What a file is and how it is read, found out from its beginning (of a workbook from all its sheets). */
import {
  type Detected,
  type Detection,
  type Format,
  UnreadableFile,
  detectEncoding,
  detectTextFormat,
  formatNames,
  isZip,
  refuseNonText,
  textFormats,
} from '@velvet-shelf/core/tabular';
import iconv from 'iconv-lite';
import { formatOf } from './formats/index.js';
import { readSample } from './sample.js';

const sampleBytes = 256 * 1024;

/** What a file is and how it is read; `wanted` is what a person says it is. Throws UnreadableFile. */
export async function detectSource(path: string, wanted?: Format): Promise<Detection> {
  const { bytes } = await readSample(path, sampleBytes);
  const isText = wanted === undefined ? !isZip(bytes) : textFormats.includes(wanted);
  if (!isText) {
    if (!isZip(bytes)) throw new UnreadableFile(`It is no ${formatNames.xlsx}: it is text`);
    const why = 'it is an XLSX workbook inside, whatever its name';
    return formatOf('xlsx').detect({ path, why, encoding: detectEncoding(bytes), text: '' });
  }
  if (isZip(bytes)) throw new UnreadableFile('It is an XLSX workbook or another ZIP archive, and no text');
  const kind = refuseNonText(bytes);
  if (!kind.ok) throw new UnreadableFile(kind.reason);
  const encoding = detectEncoding(bytes);
  const text = iconv.decode(bytes, encoding.value);
  const format: Detected<Format> =
    wanted === undefined ? detectTextFormat(text) : { value: wanted, why: 'chosen by you' };
  return formatOf(format.value).detect({ path, why: format.why, encoding, text });
}
