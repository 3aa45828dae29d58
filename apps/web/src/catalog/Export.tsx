/** The grid as a file: what is shown or everything, to change in a spreadsheet and drop at Intake again. */
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';

export function ExportMenu({ token, columns }: { token: string | undefined; columns: string[] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const shown = (format: string) => `/api/export?format=${format}&view=${token ?? ''}&columns=${columns.join(',')}`;
  const every = (format: string) => `/api/export?format=${format}`;
  const item = (href: string, words: string) => (
    <MenuItem key={href} component="a" href={href} download onClick={() => setAnchor(null)}>
      {words}
    </MenuItem>
  );
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-haspopup="menu"
      >
        Export
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {item(shown('xlsx'), 'What is shown, as XLSX')}
        {item(shown('csv'), 'What is shown, as CSV')}
        {item(`${every('xlsx')}&view=${token ?? ''}`, 'These rows with every attribute, as XLSX')}
        <Divider />
        {item(every('xlsx'), 'All goods, every attribute, as XLSX')}
        {item(every('csv'), 'All goods, every attribute, as CSV')}
      </Menu>
    </>
  );
}
