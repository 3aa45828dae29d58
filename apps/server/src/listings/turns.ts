/** Rounds of one kind of work that overlap: each takes its share, and writes what came of it, after the one before has. */
export interface Turn {
  mayTake: Promise<void>;
  hasTaken: () => void;
  mayWrite: Promise<void>;
  /** It has written, or never will. */
  hasEnded: () => void;
}

/** Gives turns in the order in which they are asked for. */
export function turns(): () => Turn {
  let [taken, written] = [Promise.resolve(), Promise.resolve()];
  return () => {
    const [mayTake, mayWrite] = [taken, written];
    let hasTaken: () => void = () => undefined;
    let hasWritten: () => void = () => undefined;
    taken = new Promise((resolve) => (hasTaken = resolve));
    written = new Promise((resolve) => (hasWritten = resolve));
    const hasEnded = () => {
      hasTaken();
      hasWritten();
    };
    return { mayTake, hasTaken, mayWrite, hasEnded };
  };
}
