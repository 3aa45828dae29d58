/** Where files are dropped, or chosen by a button; it says so while one is held over it. */
import Button from '@mui/material/Button';
import { type DragEvent, type ReactNode, useRef, useState } from 'react';
import { Box } from './Box';

interface DropZoneProps {
  head: string;
  hint: ReactNode;
  /** Of the button. */
  choose: string;
  /** Several at once. */
  many?: boolean;
  /** Kinds of files that the chooser shows. */
  accept?: string;
  isBusy: boolean;
  onFiles: (files: File[]) => void;
  /** What goes on, and what went wrong. */
  children?: ReactNode;
}

export function DropZone({ head, hint, choose, many = false, accept, isBusy, onFiles, children }: DropZoneProps) {
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const take = (files: FileList | null) => {
    const list = [...(files ?? [])];
    if (list.length > 0) onFiles(many ? list : list.slice(0, 1));
    // The same file may be chosen again, mended.
    if (input.current) input.current.value = '';
  };
  return (
    <div
      style={{
        border: `2px dashed ${isOver ? 'var(--shelf-palette-brass-bright)' : 'var(--shelf-palette-line-strong)'}`,
        borderRadius: 10,
        padding: '22px 24px',
        background: isOver ? 'var(--shelf-palette-brass-tint)' : 'var(--shelf-palette-card)',
      }}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files);
      }}
    >
      <Box row gap={4}>
        <Box grow>
          <Box as="h2" textSize={14.5}>
            {head}
          </Box>
          <Box as="span" small muted>
            {hint}
          </Box>
        </Box>
        <input
          ref={input}
          type="file"
          hidden
          multiple={many}
          accept={accept}
          aria-label={many ? 'Files' : 'File'}
          onChange={(event) => take(event.target.files)}
        />
        <Button variant="contained" disabled={isBusy} onClick={() => input.current?.click()}>
          {choose}
        </Button>
      </Box>
      {children}
    </div>
  );
}
