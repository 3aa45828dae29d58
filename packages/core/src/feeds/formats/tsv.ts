import { tsvCell } from '../../tabular/index.js';
import { delimited } from './rows.js';

export const tsv = delimited({
  label: 'TSV',
  extension: 'tsv',
  contentType: 'text/tab-separated-values',
  cell: tsvCell,
  mark: '\t',
  end: '\n',
});
