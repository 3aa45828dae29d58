/** One search and command box: products, pages. */
import { Box } from '../design/Box';
import Dialog from '@mui/material/Dialog';
import InputBase from '@mui/material/InputBase';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import { useQuery } from '@tanstack/react-query';
import { api } from '@velvet-shelf/contract';
import { type KeyboardEvent, useDeferredValue, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../api/ask';
import { usePages } from './pages';

export default function CommandBox({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const typed = text.trim();
  const asked = useDeferredValue(typed);
  /** Enter was pressed before the goods were found. */
  const [isWanted, setWanted] = useState(false);
  const navigate = useNavigate();
  const pages = usePages().flatMap((group) => group.pages);
  const found = useQuery({ ...ask(api.today.search, { query: { q: asked } }), enabled: asked.length > 1 });
  const options = [
    ...pages
      .filter(({ label }) => label.toLowerCase().includes(typed.toLowerCase()))
      .map(({ to, label }) => ({ to, label, note: 'page' })),
    ...(asked.length > 1 && asked === typed ? (found.data?.items ?? []) : []).map((row) => ({
      to: `/catalog?search=${encodeURIComponent(asked)}&open=${row.id}`,
      label: row.title ?? row.sku ?? '',
      note: row.kind === 'family' ? 'family' : (row.sku ?? row.kind),
    })),
  ];
  const go = (index: number) => {
    const option = options[index];
    if (!option) {
      setWanted(true);
      return;
    }
    onClose();
    void navigate(option.to);
  };
  const first = options[0]?.to;
  useEffect(() => {
    if (!isWanted || first === undefined) return;
    onClose();
    void navigate(first);
  }, [isWanted, first, onClose, navigate]);
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setAt((now) => Math.min(options.length - 1, now + 1));
    else if (event.key === 'ArrowUp') setAt((now) => Math.max(0, now - 1));
    else if (event.key === 'Enter') go(at);
    else return;
    event.preventDefault();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      slotProps={{ paper: { sx: { position: 'fixed', top: 80, m: 0 } } }}
    >
      <InputBase
        autoFocus
        fullWidth
        placeholder="Find products, or go to a page"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          setWanted(false);
        }}
        onKeyDown={onKey}
        sx={{ px: 2, py: 1.2, fontSize: 16, borderBottom: '1px solid var(--shelf-palette-line)' }}
        inputProps={{ 'aria-label': 'Find anything' }}
      />
      <List dense>
        {options.map((option, i) => (
          <ListItemButton key={option.to + option.label} selected={i === at} onClick={() => go(i)}>
            <Box as="span" cut grow>
              {option.label}
            </Box>
            <Box as="span" small muted>
              {option.note}
            </Box>
          </ListItemButton>
        ))}
      </List>
    </Dialog>
  );
}
