/** Rows of which only those in sight are there: a body as high as all of them, and rows put where they belong. */
import type { ComponentPropsWithRef } from 'react';

export function WindowBody({
  high,
  least,
  ...rest
}: { high: number; least?: number | undefined } & Omit<ComponentPropsWithRef<'div'>, 'style'>) {
  return <div {...rest} style={{ height: high, minWidth: least, position: 'relative' }} />;
}

/** The heads above it: as wide as the body at least. */
export function WindowHead({
  columns,
  least,
  ...rest
}: { columns: string; least?: number | undefined } & Omit<ComponentPropsWithRef<'div'>, 'style'>) {
  return <div {...rest} style={{ gridTemplateColumns: columns, minWidth: least }} />;
}

/** A cell; with `left`, pixels from the edge, it stays there while others are scrolled below it. */
export function WindowCell({
  left,
  className = '',
  ...rest
}: { left?: number | undefined } & Omit<ComponentPropsWithRef<'span'>, 'style'>) {
  return left === undefined ? (
    <span {...rest} className={className} />
  ) : (
    <span {...rest} className={`${className} frozen`} style={{ left }} />
  );
}

/** `at` is pixels from the top of the body, `columns` as CSS grids have them. */
export function WindowRow({
  at,
  columns,
  ...rest
}: { at: number; columns: string } & Omit<ComponentPropsWithRef<'div'>, 'style'>) {
  return <div {...rest} style={{ transform: `translateY(${at}px)`, gridTemplateColumns: columns }} />;
}
