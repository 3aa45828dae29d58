/** Something that can be dragged: it stands where the pointer has it. */
import type { ComponentPropsWithRef } from 'react';
import { CSS, type Transform } from '@dnd-kit/utilities';

export function Moved({
  transform,
  transition,
  ...rest
}: { transform: Transform | null; transition: string | undefined } & Omit<ComponentPropsWithRef<'div'>, 'style'>) {
  return <div {...rest} style={{ transform: CSS.Translate.toString(transform), transition }} />;
}
