import { useSyncExternalStore } from 'react';

/** Where the pointer is along the chosen piece, as a share of its length; null when it is elsewhere. Moves too often for the store. */
let cursor: number | null = null;
const listeners = new Set<() => void>();

export function setCursor(next: number | null): void {
  if (next === cursor) return;
  cursor = next;
  for (const listener of listeners) listener();
}

export const useCursor = (): number | null =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => cursor,
  );
