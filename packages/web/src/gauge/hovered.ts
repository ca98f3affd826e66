import type { StagePlace } from '@kelp/core';
import { useSyncExternalStore } from 'react';

/** The parameter whose control is under the pointer or has the focus. Changes too often for the store. */
export interface Hovered {
  place: StagePlace;
  parameter: string;
}

/** A gauge that can be pulled stays so long after the pointer left its control, milliseconds: time to take hold of it. */
const LINGER = 5000;

let hovered: Hovered | null = null;
let leaving: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

export function setHovered(next: Hovered | null): void {
  clearTimeout(leaving);
  hovered = next;
  for (const listener of listeners) listener();
}

/** Lets the gauge go: at once, or in a while. Called again, as while it is pulled, the while begins anew. */
export function leaveHovered(linger: boolean): void {
  clearTimeout(leaving);
  leaving = setTimeout(() => setHovered(null), linger ? LINGER : 0);
}

export const useHovered = (): Hovered | null =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => hovered,
  );
