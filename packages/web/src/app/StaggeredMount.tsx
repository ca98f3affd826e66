import { type ReactNode, startTransition, useEffect, useState } from 'react';

/** How many of the places that wait have had their turn. */
let running = 0;
const waiting: { order: number; go(): void }[] = [];

function next(): void {
  const first = waiting.shift();
  if (!first) return;
  running++;
  first.go();
  // a task of its own for each: what came to the page meanwhile is heard in between
  setTimeout(() => {
    running--;
    next();
  });
}

/**
 * Mounts its children in a task of their own, after others with a lower order: a page of many panels never stands still
 * for all of them at once.
 */
export function StaggeredMount({ order, children }: { order: number; children: ReactNode }) {
  const [here, setHere] = useState(false);
  useEffect(() => {
    const turn = { order, go: () => startTransition(() => setHere(true)) };
    waiting.push(turn);
    waiting.sort((a, b) => a.order - b.order);
    if (running === 0) setTimeout(next);
    return () => {
      const at = waiting.indexOf(turn);
      if (at >= 0) waiting.splice(at, 1);
    };
  }, [order]);
  return here ? children : null;
}
