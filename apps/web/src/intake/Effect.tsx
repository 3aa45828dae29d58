/** What applying would do to listings, found by trying it for real and rolling it back. */
import Button from '@mui/material/Button';
import type { BatchAnswer, EffectAnswer } from '@velvet-shelf/contract';
import { useState } from 'react';
import { State } from '../design/State';
import { count, plural } from '../design/words';

export function EffectBar({ batch }: { batch: BatchAnswer }) {
  const [open, setOpen] = useState(false);
  const { effect } = batch;
  if (batch.kind === 'round-trip' || !['tried', 'applied'].includes(batch.state)) return null;
  if (!effect)
    return batch.state === 'tried' ? (
      <p className="muted small" role="status" style={{ margin: '0 0 8px' }}>
        Finding out what it would do to listings…
      </p>
    ) : null;
  const parts = sayEffect(effect);
  return (
    <div style={{ background: 'var(--brass-tint)', borderRadius: 6, padding: '7px 12px', marginBottom: 8 }}>
      <div className="row wrap small" style={{ gap: 14 }}>
        <b>{batch.state === 'applied' ? 'Foreseen for listings:' : 'To listings it would do this:'}</b>
        {parts.length === 0 ? (
          <span>nothing</span>
        ) : (
          parts.map(([state, words]) => (
            <State key={words} is={state}>
              {words}
            </State>
          ))
        )}
        {effect.rows < effect.of && (
          <span className="muted">
            tried on the first {count(effect.rows)} of {count(effect.of)} rows
          </span>
        )}
        {effect.examples.length > 0 && (
          <Button size="small" color="secondary" sx={{ p: 0, ml: 'auto' }} onClick={() => setOpen(!open)}>
            {open ? 'Hide examples' : 'Show examples'}
          </Button>
        )}
      </div>
      {open && (
        <div className="scroll" style={{ maxHeight: 180, marginTop: 6 }}>
          <table className="plain">
            <tbody>
              {effect.examples.map((example) => (
                <tr key={`${example.kind}${example.place}${example.sku}${example.title}`}>
                  <td>{example.sku ?? ''}</td>
                  <td>{example.title}</td>
                  <td className="muted">{example.place}</td>
                  <td>
                    {example.before ?? 'not listed'} → <b>{example.after ?? 'not listed'}</b>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}

function sayEffect(effect: EffectAnswer): [state: string, words: string][] {
  const all: [number, string, string][] = [
    [effect.becameReady, 'ready', `${count(effect.becameReady)} would become ready`],
    [effect.becameBlocked, 'blocked', `${count(effect.becameBlocked)} would become blocked`],
    [effect.added, 'sent', `${plural(effect.added, 'listing')} would be added`],
    [effect.removed, 'none', `${plural(effect.removed, 'listing')} would go`],
    [effect.priceChanges, 'advice', `${plural(effect.priceChanges, 'price')} would change on channels`],
  ];
  return all.flatMap(([n, state, words]) => (n > 0 ? [[state, words] as [string, string]] : []));
}
