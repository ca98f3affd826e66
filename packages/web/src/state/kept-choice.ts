import { useSyncExternalStore } from 'react';
import { safeStorage } from './safe-storage.js';

/** A choice between two that this browser keeps; the first one where none was made. */
export function keptChoice<T extends string>(store: string, [first, second]: readonly [T, T]) {
  let chosen: T = safeStorage.getItem(store) === second ? second : first;
  const listeners = new Set<() => void>();
  return {
    /** Takes the other one. */
    toggle(): void {
      chosen = chosen === first ? second : first;
      safeStorage.setItem(store, chosen);
      for (const listener of listeners) listener();
    },
    use: (): T =>
      useSyncExternalStore(
        (listener) => {
          listeners.add(listener);
          return () => listeners.delete(listener);
        },
        () => chosen,
      ),
  };
}
