/** Where a file is dropped; it says so while one is held over it. */
import type { ComponentPropsWithRef } from 'react';

export function DropZone({ isOver, ...rest }: { isOver: boolean } & Omit<ComponentPropsWithRef<'div'>, 'style'>) {
  return (
    <div
      {...rest}
      style={{
        border: `2px dashed ${isOver ? 'var(--shelf-palette-brass-bright)' : 'var(--shelf-palette-line-strong)'}`,
        borderRadius: 10,
        padding: '22px 24px',
        background: isOver ? 'var(--shelf-palette-brass-tint)' : 'var(--shelf-palette-card)',
      }}
    />
  );
}
