/** Columns of the grid: put in order by drag or keys, kept in sight, taken out, and others shown. */
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Box } from '../design/Box';
import { Ordered } from '../design/Ordered';
import { RemoveButton } from '../design/RemoveButton';
import { type Columns, boundWidth } from './columns';

export function ColumnMenu({ columns: { all, shown, toggle, order, size, freeze } }: { columns: Columns }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const byKey = new Map(shown.map((column) => [column.key, column]));
  const labelOf = (key: string) => byKey.get(key)?.label ?? key;
  const others = all.filter(({ key }) => !byKey.has(key));
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        aria-haspopup="dialog"
        onClick={({ currentTarget }) => setAnchor(currentTarget)}
      >
        Columns
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{
          paper: { sx: { maxHeight: 520, width: 350 }, role: 'dialog', tabIndex: -1, 'aria-label': 'Columns' },
        }}
      >
        <Box pad={[2, 2.5]}>
          <Ordered label="Columns shown" ids={shown.map(({ key }) => key)} nameOf={labelOf} onOrder={order}>
            {(key, place, handle) => {
              const { label, width, isFrozen = false } = byKey.get(key) ?? { label: key, width: 0 };
              return (
                <Box row gap={1.5}>
                  <span className="drag" {...handle} aria-label={`Move ${label}, place ${place}`}>
                    <DragIndicatorIcon fontSize="small" />
                  </span>
                  <Box as="span" grow cut>
                    {label}
                  </Box>
                  <Width label={`Width of ${label}`} width={width} onSize={(to) => size(key, to)} />
                  <Button
                    color="secondary"
                    aria-pressed={isFrozen}
                    aria-label={`Keep ${label} in sight`}
                    sx={{ p: '2px 6px', minWidth: 0 }}
                    onClick={() => freeze(key, !isFrozen)}
                  >
                    {isFrozen ? 'in sight' : 'scrolls'}
                  </Button>
                  <RemoveButton of={label} onClick={() => toggle(key)} />
                </Box>
              );
            }}
          </Ordered>
          <Box small muted above={2}>
            Not shown
          </Box>
          <MenuList disablePadding aria-label="Columns not shown">
            {others.map(({ key, label }) => (
              <MenuItem
                key={key}
                dense
                disableGutters
                onClick={({ currentTarget }) => {
                  // It goes from this list: Escape still closes what it stood in.
                  currentTarget.closest<HTMLElement>('[role=dialog]')?.focus();
                  toggle(key);
                }}
              >
                <Checkbox size="small" checked={false} sx={{ p: 0.3, mr: 1 }} tabIndex={-1} />
                {label}
              </MenuItem>
            ))}
          </MenuList>
        </Box>
      </Popover>
    </>
  );
}

/** In pixels; said once one leaves it or presses Enter. */
function Width({ label, width, onSize }: { label: string; width: number; onSize: (width: number) => void }) {
  const [text, setText] = useState(String(width));
  const say = () => {
    const wished = boundWidth(Number(text) || width);
    setText(String(wished));
    onSize(wished);
  };
  return (
    <TextField
      size="small"
      value={text}
      onChange={({ target }) => setText(target.value.replace(/\D/g, ''))}
      onBlur={say}
      onKeyDown={({ key }) => key === 'Enter' && say()}
      sx={{ width: 58 }}
      slotProps={{ htmlInput: { 'aria-label': label, inputMode: 'numeric', sx: { p: '3px 8px', textAlign: 'right' } } }}
    />
  );
}
