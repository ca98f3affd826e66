import { useSyncExternalStore } from 'react';
import { safeStorage } from '../state/safe-storage.js';
import { FIXED } from './actions.js';

const STORE = 'kelp-keys';

/** Keys by action, as the person set them; what was never set has its first keys. Kept in this browser. */
let changed: Record<string, string> = read();
const listeners = new Set<() => void>();

function read(): Record<string, string> {
  try {
    const stored: unknown = JSON.parse(safeStorage.getItem(STORE) ?? '{}');
    if (typeof stored !== 'object' || stored === null) return {};
    return Object.fromEntries(
      Object.entries(stored).filter(
        ([id, keys]) => typeof keys === 'string' && FIXED.some((action) => action.id === id),
      ),
    ) as Record<string, string>;
  } catch {
    // what another program left there: the first keys
    return {};
  }
}

function keep(next: Record<string, string>): void {
  changed = next;
  safeStorage.setItem(STORE, JSON.stringify(next));
  for (const listener of listeners) listener();
}

/** Gives an action other keys; an action that had them before loses them. */
export function setKeys(id: string, keys: string): void {
  const taken = FIXED.filter((action) => action.id !== id && keysOf(action.id) === keys).map((action) => action.id);
  keep({ ...changed, ...Object.fromEntries(taken.map((other) => [other, ''])), [id]: keys });
}

export const resetKeys = (): void => keep({});

export const keysOf = (id: string): string => changed[id] ?? FIXED.find((action) => action.id === id)?.keys ?? '';

/** Draws again when keys change. */
export const useKeymap = (): Record<string, string> =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => changed,
  );

/** A key press in the notation of react-hotkeys-hook; undefined while only Ctrl, Shift or Alt is down. */
export function pressed(event: {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  shiftKey: boolean;
  altKey: boolean;
}) {
  const key = event.key.toLowerCase();
  if (['control', 'shift', 'alt', 'meta'].includes(key)) return undefined;
  return [
    ...(event.ctrlKey || event.metaKey ? ['mod'] : []),
    ...(event.shiftKey ? ['shift'] : []),
    ...(event.altKey ? ['alt'] : []),
    key === ' ' ? 'space' : key,
  ].join('+');
}

/** Keys as people write them: "Ctrl+Shift+Z". */
export const keysText = (keys: string): string =>
  keys
    .split('+')
    .map((part) => (part === 'mod' ? 'Ctrl' : part.charAt(0).toUpperCase() + part.slice(1)))
    .join('+');
