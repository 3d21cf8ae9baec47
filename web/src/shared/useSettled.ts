import { useEffect, useState } from "react";

/** A value once it has rested for a moment, so that not every letter typed is asked for. */
export function useSettled<T>(value: T, milliseconds = 300): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), milliseconds);
    return () => clearTimeout(timer);
  }, [value, milliseconds]);
  return settled;
}
