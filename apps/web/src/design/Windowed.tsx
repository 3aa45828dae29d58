/** Rows of which only those in sight are there: a body as high as all of them, and rows put where they belong. */
import type { ComponentPropsWithRef } from 'react';

export function WindowBody({ high, ...rest }: { high: number } & Omit<ComponentPropsWithRef<'div'>, 'style'>) {
  return <div {...rest} style={{ height: high, position: 'relative' }} />;
}

/** `at` is pixels from the top of the body, `columns` as CSS grids have them. */
export function WindowRow({
  at,
  columns,
  ...rest
}: { at: number; columns: string } & Omit<ComponentPropsWithRef<'div'>, 'style'>) {
  return <div {...rest} style={{ transform: `translateY(${at}px)`, gridTemplateColumns: columns }} />;
}
