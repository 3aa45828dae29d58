/** The grid as a file: what is shown or everything, to change in a spreadsheet and drop at Intake again. */
import Divider from '@mui/material/Divider';
import MenuItem from '@mui/material/MenuItem';
import { MenuButton } from '../design/MenuButton';

export function ExportMenu({ token, columns }: { token: string | undefined; columns: string[] }) {
  const shown = (format: string) => `/api/export?format=${format}&view=${token ?? ''}&columns=${columns.join(',')}`;
  const every = (format: string) => `/api/export?format=${format}`;
  const item = (href: string, words: string, close: () => void) => (
    <MenuItem key={href} component="a" href={href} download onClick={close}>
      {words}
    </MenuItem>
  );
  return (
    <MenuButton label="Export">
      {(close) => [
        item(shown('xlsx'), 'What is shown, as XLSX', close),
        item(shown('csv'), 'What is shown, as CSV', close),
        item(`${every('xlsx')}&view=${token ?? ''}`, 'These rows with every attribute, as XLSX', close),
        <Divider key="all" />,
        item(every('xlsx'), 'All goods, every attribute, as XLSX', close),
        item(every('csv'), 'All goods, every attribute, as CSV', close),
      ]}
    </MenuButton>
  );
}
