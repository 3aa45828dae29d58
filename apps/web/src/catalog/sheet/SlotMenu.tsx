/** Which columns the sheet shows, found by name where there are many. */
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SheetColumn } from '@velvet-shelf/contract';
import { foldText } from '@velvet-shelf/core/values';
import { useState } from 'react';
import { Box } from '../../design/Box';
import { MenuButton } from '../../design/MenuButton';
import { headOf } from './columns';

export function SlotMenu({
  all,
  shown,
  onChange,
}: {
  all: readonly SheetColumn[];
  shown: readonly string[];
  onChange: (slots: string[]) => void;
}) {
  const [sought, setSought] = useState('');
  const fitting = all.filter((column) => foldText(`${headOf(column)} ${column.group}`).includes(foldText(sought)));
  return (
    <MenuButton label={`Columns ${shown.length}`}>
      {() => [
        <Box key="#find" pad={[1, 4, 2]}>
          <TextField
            label="Find a column"
            value={sought}
            onChange={(event) => setSought(event.target.value)}
            onKeyDown={(event) => event.stopPropagation()}
            fullWidth
          />
        </Box>,
        ...fitting.map((column) => (
          <MenuItem
            key={column.slot}
            dense
            onClick={() =>
              onChange(
                shown.includes(column.slot) ? shown.filter((slot) => slot !== column.slot) : [...shown, column.slot],
              )
            }
          >
            <Checkbox size="small" checked={shown.includes(column.slot)} sx={{ p: 0.3, mr: 1 }} />
            {headOf(column)}
            <Box as="span" small muted before={2}>
              {column.group}
            </Box>
          </MenuItem>
        )),
      ]}
    </MenuButton>
  );
}
