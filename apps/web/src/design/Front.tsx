/** The page of whoever has not come in yet: the name on one half, what is asked on the other. */
import type { ReactNode } from 'react';
import './front.css';

export function Front({ name, words, children }: { name: string; words: string; children: ReactNode }) {
  return (
    <div className="front">
      <header className="front-name">
        <h1>{name}</h1>
        <p>{words}</p>
      </header>
      <main>{children}</main>
    </div>
  );
}
