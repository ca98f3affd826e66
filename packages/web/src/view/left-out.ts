import { useSyncExternalStore } from 'react';

/** How many small far things the picture leaves out, now that the view stands still. */
let count = 0;
const listeners = new Set<() => void>();

export function setLeftOut(next: number): void {
  if (next === count) return;
  count = next;
  for (const listener of listeners) listener();
}

export const useLeftOut = (): number =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => count,
  );
