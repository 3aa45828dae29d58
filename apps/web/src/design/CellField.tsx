/** Where a cell is written in: a text, with what may be chosen below it where there is a list. Enter and Tab end it, Escape leaves it. */
import { type KeyboardEvent, useEffect, useId, useRef, useState } from 'react';

/** Choices shown at once. */
const mostShown = 60;

export function CellField({
  label,
  begin,
  choices,
  isLong,
  onDone,
  onLeave,
}: {
  label: string;
  begin: string;
  choices: readonly string[] | undefined;
  isLong: boolean;
  onDone: (text: string, then: 'down' | 'up' | 'right' | 'left' | 'stay') => void;
  onLeave: () => void;
}) {
  const [text, setText] = useState(begin);
  const [at, setAt] = useState(-1);
  const field = useRef<HTMLTextAreaElement>(null);
  const isOver = useRef(false);
  const id = useId();
  useEffect(() => {
    field.current?.focus();
    field.current?.setSelectionRange(begin.length, begin.length);
    // Only when it opens.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const sought = text === begin ? '' : text.trim().toLowerCase();
  const fitting = choices?.filter((choice) => choice.toLowerCase().includes(sought)).slice(0, mostShown);
  const done = (value: string, then: 'down' | 'up' | 'right' | 'left' | 'stay') => {
    isOver.current = true;
    onDone(value, then);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.nativeEvent.isComposing) return;
    if (event.key === 'Escape') {
      isOver.current = true;
      event.preventDefault();
      onLeave();
    } else if (event.key === 'Enter' && event.altKey) {
      event.preventDefault();
      field.current?.setRangeText('\n', field.current.selectionStart, field.current.selectionEnd, 'end');
      setText(field.current?.value ?? text);
    } else if (event.key === 'Enter' || event.key === 'Tab') {
      event.preventDefault();
      const across = event.key === 'Tab';
      done(fitting?.[at] ?? text, across ? (event.shiftKey ? 'left' : 'right') : event.shiftKey ? 'up' : 'down');
    } else if (fitting && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault();
      setAt((now) => Math.max(-1, Math.min(fitting.length - 1, now + (event.key === 'ArrowDown' ? 1 : -1))));
    }
  };
  return (
    <div
      className="cell-field"
      onMouseDown={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      <textarea
        ref={field}
        rows={isLong ? 6 : 1}
        className={isLong ? 'long' : ''}
        aria-label={label}
        role={fitting ? 'combobox' : undefined}
        aria-expanded={fitting ? true : undefined}
        aria-controls={fitting ? `${id}-list` : undefined}
        aria-activedescendant={fitting && at >= 0 ? `${id}-${at}` : undefined}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(-1);
        }}
        onKeyDown={onKeyDown}
        onCopy={(event) => event.stopPropagation()}
        onCut={(event) => event.stopPropagation()}
        onPaste={(event) => event.stopPropagation()}
        onBlur={() => {
          if (!isOver.current) done(text, 'stay');
        }}
      />
      {fitting && (
        <ul role="listbox" id={`${id}-list`} aria-label={`${label}: choices`}>
          {fitting.map((choice, i) => (
            <li
              key={choice}
              id={`${id}-${i}`}
              role="option"
              aria-selected={i === at}
              onMouseDown={(event) => {
                event.preventDefault();
                done(choice, 'down');
              }}
            >
              {choice}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
