/** States: a shape, a word and a colour, never a colour alone. */
import type { ReactNode } from 'react';

const shapes: Record<string, ReactNode> = {
  live: <circle cx="6" cy="6" r="6" fill="currentColor" />,
  ready: <circle cx="6" cy="6" r="4.6" fill="none" stroke="currentColor" strokeWidth="2.4" />,
  blocked: <path d="M6 0l6 6-6 6-6-6z" fill="currentColor" />,
  refused: <path d="M1.5 1.5l9 9M10.5 1.5l-9 9" stroke="currentColor" strokeWidth="2.6" />,
  advice: <path d="M0 8.5h12v2.4H0zM0 3h12v2.4H0z" fill="currentColor" />,
  held: <path d="M1 0h3.5v12H1zM7.5 0H11v12H7.5z" fill="currentColor" />,
  sent: <path d="M0 6h7V2l5 4-5 4V6z" fill="currentColor" stroke="currentColor" strokeWidth="1" />,
  none: <path d="M1 5h10v2H1z" fill="currentColor" />,
};

const shapeOf: Record<string, string> = {
  'not for this channel': 'none',
  withdrawn: 'none',
  hidden: 'held',
  queued: 'sent',
  'draft there': 'sent',
  unanswered: 'sent',
  accepted: 'live',
  warned: 'advice',
  done: 'live',
  running: 'sent',
  failed: 'refused',
  cancelled: 'none',
  created: 'ready',
  joins: 'ready',
  changed: 'advice',
  unchanged: 'none',
};

export function State({ is, children }: { is: string; children?: ReactNode }) {
  const shape = shapes[is] ? is : (shapeOf[is] ?? 'none');
  return (
    <span className={`st ${shape}`}>
      <svg viewBox="0 0 12 12" aria-hidden="true">
        {shapes[shape]}
      </svg>
      {children === undefined ? is : children}
    </span>
  );
}
