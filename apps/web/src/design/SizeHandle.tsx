/** The edge of a column: drawn with the pointer, or moved by arrow keys. */
import { useRef } from 'react';

/** Pixels a key moves it. */
const step = 10;

export function SizeHandle({
  label,
  width,
  onSize,
}: {
  label: string;
  width: number;
  onSize: (width: number) => void;
}) {
  const from = useRef<{ x: number; width: number }>(undefined);
  return (
    <span
      className="size-handle"
      role="slider"
      aria-orientation="horizontal"
      aria-label={`Width of ${label}`}
      aria-valuenow={width}
      aria-valuemin={40}
      aria-valuemax={800}
      tabIndex={0}
      onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, width };
      }}
      onPointerMove={({ clientX }) => from.current && onSize(from.current.width + clientX - from.current.x)}
      onPointerUp={() => (from.current = undefined)}
      onKeyDown={(event) => {
        const by = event.key === 'ArrowLeft' ? -step : event.key === 'ArrowRight' ? step : 0;
        if (by === 0) return;
        event.preventDefault();
        event.stopPropagation();
        onSize(width + by);
      }}
    />
  );
}
