/** Rooms: one panel of all pages that stand, grouped as the work goes. Letters find a room, Escape closes. */
import ExpandMoreIcon from '@mui/icons-material/ExpandMore';
import Popover from '@mui/material/Popover';
import { type KeyboardEvent, useRef, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { pageAt, usePages } from './pages';
import './rooms.css';

/** The room one is in, else the first. */
const firstOf = (panel: HTMLElement | null) =>
  panel?.querySelector<HTMLElement>('[aria-current]') ?? panel?.querySelector('a');

export function Rooms() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const groups = usePages();
  const { pathname, search } = useLocation();
  const here = pageAt(groups, pathname + search);
  const panel = useRef<HTMLDivElement>(null);
  const typed = useRef({ text: '', at: 0 });
  const close = () => setAnchor(null);

  /** Arrows go through the rooms; letters typed in a row go to the next that begins so. */
  const onKey = (event: KeyboardEvent) => {
    const links = [...(panel.current?.querySelectorAll('a') ?? [])];
    const now = links.indexOf(document.activeElement as HTMLAnchorElement);
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      links[(now + (event.key === 'ArrowDown' ? 1 : -1) + links.length) % links.length]?.focus();
    } else if (event.key.length === 1 && /\p{L}/u.test(event.key)) {
      const goesOn = event.timeStamp - typed.current.at < 900;
      typed.current = { text: (goesOn ? typed.current.text : '') + event.key.toLowerCase(), at: event.timeStamp };
      const from = goesOn ? now : now + 1;
      const order = [...links.slice(from), ...links.slice(0, from)];
      order.find((link) => link.textContent?.toLowerCase().startsWith(typed.current.text))?.focus();
    }
  };

  return (
    <>
      <button
        type="button"
        className="rooms-button"
        aria-haspopup="dialog"
        aria-expanded={anchor !== null}
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        <span>
          Rooms<small>{here?.label ?? ''}</small>
        </span>
        <ExpandMoreIcon fontSize="small" />
      </button>
      <Popover
        anchorEl={anchor}
        open={anchor !== null}
        onClose={close}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{
          paper: { role: 'dialog', 'aria-label': 'Rooms' },
          transition: { onEntered: () => firstOf(panel.current)?.focus() },
        }}
      >
        <div className="rooms" ref={panel} onKeyDown={onKey}>
          {groups.map(({ name, pages }) => (
            <nav key={name} aria-label={name}>
              <h2>{name}</h2>
              {pages.map(({ to, label }) => (
                <Link key={to} to={to} onClick={close} aria-current={to === here?.to ? 'page' : undefined}>
                  {label}
                </Link>
              ))}
            </nav>
          ))}
        </div>
      </Popover>
    </>
  );
}
