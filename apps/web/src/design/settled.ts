/** A value once nobody has changed it for a while: what is asked by it is not asked at every key. */
import { useEffect, useState } from 'react';

export function useSettled<T>(value: T, milliseconds = 500): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const waiting = setTimeout(() => setSettled(value), milliseconds);
    return () => clearTimeout(waiting);
  }, [value, milliseconds]);
  return settled;
}
