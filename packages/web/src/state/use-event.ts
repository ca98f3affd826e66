import { useCallback, useRef } from 'react';

/** A function that stays the same from draw to draw and runs the newest one: what gets it need not be drawn again. */
export function useEvent<A extends unknown[], R>(run: (...given: A) => R): (...given: A) => R {
  const newest = useRef(run);
  newest.current = run;
  return useCallback((...given: A) => newest.current(...given), []);
}
