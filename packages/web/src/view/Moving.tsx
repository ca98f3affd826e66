import { type TurnTrack, turnedBy } from '@kelp/core';
import { useFrame, useThree } from '@react-three/fiber';
import { type ReactNode, useEffect, useRef } from 'react';
import type { Group } from 'three';
import { clockNow, onClock, runClock, useClock } from '../state/clock.js';

/** A part that the clock turns. Nothing is computed anew: it is one matrix. */
export function Moving({ track, children }: { track: TurnTrack; children: ReactNode }) {
  const group = useRef<Group>(null);
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    const matrix = new Float64Array(16);
    return onClock(({ phase }) => {
      if (!group.current) return;
      group.current.matrixAutoUpdate = false;
      group.current.matrix.fromArray(turnedBy(track, phase, matrix));
      group.current.matrixWorldNeedsUpdate = true;
      invalidate();
    });
  }, [track, invalidate]);
  return <group ref={group}>{children}</group>;
}

/** Runs the clock while it plays: one step a frame. */
export function ClockWork({ length, loop }: { length: number; loop: boolean }) {
  const { playing } = useClock();
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    if (playing) invalidate();
  }, [playing, invalidate]);
  useFrame(() => {
    if (!clockNow().playing) return;
    runClock(performance.now(), length, loop);
    invalidate();
  });
  return null;
}
