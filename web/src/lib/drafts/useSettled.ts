import { useEffect, useRef, useState } from "react";

/** A value that follows another one once that has not changed for some milliseconds. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}

/** A value that follows another one at once, or once that rests where it has changed not long before. */
export function useRested<T>(value: T, ms: number): T {
  const [rested, setRested] = useState(value);
  const changedAt = useRef(Number.NEGATIVE_INFINITY);
  useEffect(() => {
    const since = performance.now() - changedAt.current;
    changedAt.current = performance.now();
    if (since > ms) return setRested(value);
    const timer = setTimeout(() => setRested(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return rested;
}
