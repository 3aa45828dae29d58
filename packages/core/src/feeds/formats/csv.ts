import { csvCell } from '../../tabular/index.js';
import { delimited } from './rows.js';

export const csv = delimited({
  label: 'CSV',
  extension: 'csv',
  contentType: 'text/csv',
  cell: csvCell,
  mark: ',',
  end: '\r\n',
});
