/** The drawer at the right: resizable, stays open while one moves through the list. */
import CloseIcon from '@mui/icons-material/Close';
import IconButton from '@mui/material/IconButton';
import { type PointerEvent, type ReactNode, useState } from 'react';

const slot = 'velvet.drawer.width';

export function Drawer({ label, onClose, children }: { label: string; onClose: () => void; children: ReactNode }) {
  const [width, setWidth] = useState(() => Number(localStorage.getItem(slot)) || 440);
  const resize = (event: PointerEvent<HTMLDivElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const next = Math.min(900, Math.max(340, window.innerWidth - event.clientX));
    setWidth(next);
    localStorage.setItem(slot, String(next));
  };
  return (
    <aside
      aria-label={label}
      className="col"
      style={{
        width,
        flex: 'none',
        borderLeft: '1px solid var(--shelf-palette-line-strong)',
        background: 'var(--shelf-palette-card)',
        position: 'relative',
      }}
    >
      <div
        role="separator"
        aria-orientation="vertical"
        aria-label="Width of the drawer"
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={resize}
        style={{ position: 'absolute', left: -4, top: 0, bottom: 0, width: 8, cursor: 'col-resize', zIndex: 3 }}
      />
      <IconButton
        aria-label="Close"
        onClick={onClose}
        size="small"
        sx={{ position: 'absolute', right: 8, top: 8, zIndex: 2 }}
      >
        <CloseIcon fontSize="small" />
      </IconButton>
      <div className="scroll grow" style={{ padding: '14px 18px' }}>
        {children}
      </div>
    </aside>
  );
}
