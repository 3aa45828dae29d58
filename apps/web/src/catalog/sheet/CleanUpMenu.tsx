/** Ways to clean the chosen cells up, each with what it does. */
import MenuItem from '@mui/material/MenuItem';
import { type CleanUp, cleanUps } from '@velvet-shelf/core/catalog';
import { MenuButton } from '../../design/MenuButton';

export function CleanUpMenu({ onClean }: { onClean: (cleanUp: CleanUp) => void }) {
  return (
    <MenuButton label="Clean up">
      {(close) =>
        cleanUps.map((cleanUp) => (
          <MenuItem
            key={cleanUp.key}
            onClick={() => {
              close();
              onClean(cleanUp);
            }}
          >
            {cleanUp.label}
          </MenuItem>
        ))
      }
    </MenuButton>
  );
}
