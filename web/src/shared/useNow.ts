import { useEffect, useState } from "react";

/** The present, looked at again every few seconds while the page is seen. */
export function useNow(everyMilliseconds = 5000): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMilliseconds);
    return () => clearInterval(timer);
  }, [everyMilliseconds]);
  return now;
}
