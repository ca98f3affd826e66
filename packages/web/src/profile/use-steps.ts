import { useState } from 'react';
import type { Paths } from './profile-edits.js';

interface Steps {
  past: Paths[];
  now: Paths;
  future: Paths[];
  /** Before the drag that is going on. */
  held: Paths | null;
}

/** Steps back that are kept. */
const MAX_STEPS = 200;

/** Paths with their own way back and forth; a drag is one step. */
export function useSteps(first: Paths) {
  const [steps, setSteps] = useState<Steps>({ past: [], now: first, future: [], held: null });
  return {
    paths: steps.now,
    canUndo: steps.past.length > 0,
    canRedo: steps.future.length > 0,
    /** `done` is false while something is being dragged. */
    change(next: Paths, done = true): void {
      setSteps(({ past, now, held }) => {
        if (!done) return { past, now: next, future: [], held: held ?? now };
        const before = held ?? now;
        return {
          past: before === next ? past : [...past, before].slice(-MAX_STEPS),
          now: next,
          future: [],
          held: null,
        };
      });
    },
    undo(): void {
      setSteps((old) => {
        const last = old.past.at(-1);
        return last ? { past: old.past.slice(0, -1), now: last, future: [old.now, ...old.future], held: null } : old;
      });
    },
    redo(): void {
      setSteps((old) => {
        const [next, ...rest] = old.future;
        return next ? { past: [...old.past, old.now], now: next, future: rest, held: null } : old;
      });
    },
  };
}
