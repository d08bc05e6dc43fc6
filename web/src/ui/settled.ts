import { useEffect, useState } from 'react';

/** A value that follows its source once that has been still for a moment, and whether it has. */
export function useSettled<T>(value: T, delayMs: number): [T, boolean] {
  const text = JSON.stringify(value);
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), delayMs);
    return () => clearTimeout(timer);
  }, [text, delayMs]);
  return [JSON.parse(settled) as T, settled === text];
}
