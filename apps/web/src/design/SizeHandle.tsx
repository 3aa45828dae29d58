/** The edge of a column, drawn with the pointer; whoever uses keys is given a figure elsewhere. */
import { useRef } from 'react';

export function SizeHandle({ width, onSize }: { width: number; onSize: (width: number) => void }) {
  const from = useRef<{ x: number; width: number }>(undefined);
  return (
    <span
      className="size-handle"
      aria-hidden="true"
      onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, width };
      }}
      onPointerMove={({ clientX }) => from.current && onSize(from.current.width + clientX - from.current.x)}
      onPointerUp={() => (from.current = undefined)}
    />
  );
}
