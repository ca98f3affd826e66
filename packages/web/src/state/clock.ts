import { useSyncExternalStore } from 'react';

/** The project's time while it runs. Moves at every frame: too often for the store. */
interface ClockState {
  playing: boolean;
  /** Since the beginning of the loop, seconds. */
  seconds: number;
}

let state: ClockState = { playing: false, seconds: 0 };
const listeners = new Set<() => void>();

export function setClock(next: Partial<ClockState>): void {
  state = { ...state, ...next };
  for (const listener of listeners) listener();
}

export const clockNow = (): ClockState => state;

export const useClock = (): ClockState =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => state,
  );
