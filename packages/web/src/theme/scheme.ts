import { useSyncExternalStore } from 'react';
import { safeStorage } from '../state/safe-storage.js';
import { PALETTES, type Palette, type Scheme } from './colours.js';

const STORE = 'kelp-scheme';

/** Light unless the person chose dim in this browser. */
let scheme: Scheme = safeStorage.getItem(STORE) === 'dim' ? 'dim' : 'light';
const listeners = new Set<() => void>();

export function setScheme(next: Scheme): void {
  scheme = next;
  safeStorage.setItem(STORE, next);
  for (const listener of listeners) listener();
}

export const toggleScheme = (): void => setScheme(scheme === 'light' ? 'dim' : 'light');

export const useScheme = (): Scheme =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => scheme,
  );

/** The colours in force as plain values, for what is not drawn by the page. */
export const usePalette = (): Palette => PALETTES[useScheme()];
