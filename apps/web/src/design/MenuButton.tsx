/** A button that opens a menu; what is in it closes it where it is done. */
import Button, { type ButtonProps } from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import { type ReactNode, useState } from 'react';

export function MenuButton({
  label,
  children,
  ...rest
}: { label: ReactNode; children: (close: () => void) => ReactNode } & Omit<ButtonProps, 'children' | 'onClick'>) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => setAnchor(null);
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        aria-haspopup="menu"
        {...rest}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {label}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close} slotProps={{ paper: { sx: { maxHeight: 460 } } }}>
        {children(close)}
      </Menu>
    </>
  );
}
