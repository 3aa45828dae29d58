/** A box to search in: what is typed is there at once, and asked for when the fingers rest. */
import TextField from '@mui/material/TextField';
import { useEffect, useRef, useState } from 'react';

const restMilliseconds = 200;

/** `value` is what is asked for; where it becomes another from elsewhere, the box shows that. */
export function SearchBox({
  label,
  value,
  onSearch,
  wide = 180,
}: {
  label: string;
  value: string;
  onSearch: (text: string) => void;
  /** Pixels. */
  wide?: number;
}) {
  const [typed, setTyped] = useState(value);
  const asked = useRef(value);
  const told = useRef(onSearch);
  useEffect(() => {
    told.current = onSearch;
  });
  useEffect(() => {
    if (value === asked.current) return;
    asked.current = value;
    setTyped(value);
  }, [value]);
  useEffect(() => {
    if (typed === asked.current) return undefined;
    const rest = setTimeout(() => {
      asked.current = typed;
      told.current(typed);
    }, restMilliseconds);
    return () => clearTimeout(rest);
  }, [typed]);
  return (
    <TextField
      placeholder={label}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      slotProps={{ htmlInput: { 'aria-label': label } }}
      sx={{ width: wide }}
    />
  );
}
