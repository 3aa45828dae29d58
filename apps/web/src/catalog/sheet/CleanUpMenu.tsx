/** Ways to clean the chosen cells up, each with what it does. */
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { type CleanUp, cleanUps } from '@velvet-shelf/core/catalog';
import { useState } from 'react';

export function CleanUpMenu({ onClean }: { onClean: (cleanUp: CleanUp) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        Clean up
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {cleanUps.map((cleanUp) => (
          <MenuItem
            key={cleanUp.key}
            onClick={() => {
              setAnchor(null);
              onClean(cleanUp);
            }}
          >
            {cleanUp.label}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
