import type { StagePlace } from '@kelp/core';
import { useSyncExternalStore } from 'react';

/** The parameter whose control is under the pointer or has the focus. Changes too often for the store. */
export interface Hovered {
  place: StagePlace;
  parameter: string;
}

let hovered: Hovered | null = null;
const listeners = new Set<() => void>();

export function setHovered(next: Hovered | null): void {
  hovered = next;
  for (const listener of listeners) listener();
}

export const useHovered = (): Hovered | null =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => hovered,
  );
