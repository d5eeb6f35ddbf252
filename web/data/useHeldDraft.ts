import { useEffect, useRef, useState } from 'react';

/**
 * What is under the hand, until the stored one is what the screen shows: between the two an older one would stand for
 * a moment, and a field that is just left would take it for a change.
 * @param shown the edition that the screen shows, undefined while there is none
 * @param stored the newest edition that has come back, which the screen may show only later
 */
export function useHeldDraft<T>(shown: number | undefined, stored: () => number) {
  const [draft, setDraft] = useState<T | null>(null);
  const [storedAs, setStoredAs] = useState<number | null>(null);
  const onTheWay = useRef(0);
  useEffect(() => {
    if (storedAs === null || shown === undefined || shown < storedAs || onTheWay.current > 0) return;
    setDraft(null);
    setStoredAs(null);
  }, [shown, storedAs]);
  return {
    draft,
    /** Shows it without storing it. */
    preview: setDraft,
    /** Shows it and stores it; `store` settles when it is stored, or refused and the newest read again. */
    hold: (value: T, store: () => Promise<unknown>) => {
      onTheWay.current++;
      setDraft(value);
      void store().then(() => {
        if (--onTheWay.current === 0) setStoredAs(stored());
      });
    },
  };
}
