import type { Track } from '@kelp/core';
import { useFrame, useThree } from '@react-three/fiber';
import { type ReactNode, useEffect, useRef } from 'react';
import type { Group } from 'three';
import { clockNow, setClock, useClock } from '../state/clock.js';
import { carriedBy } from './motion.js';

/** A part that the clock carries along. */
export function Moving({ tracks, children }: { tracks: readonly Track[]; children: ReactNode }) {
  const group = useRef<Group>(null);
  const { seconds } = useClock();
  useEffect(() => {
    if (!group.current) return;
    group.current.matrixAutoUpdate = false;
    carriedBy(tracks, seconds, group.current.matrix);
    group.current.matrixWorldNeedsUpdate = true;
  }, [tracks, seconds]);
  return <group ref={group}>{children}</group>;
}

/** Runs the clock while it plays: one step a frame. */
export function ClockWork({ length, loop }: { length: number; loop: boolean }) {
  const { playing } = useClock();
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => {
    if (playing) invalidate();
  }, [playing, invalidate]);
  useFrame((_, passed) => {
    if (!clockNow().playing) return;
    const next = clockNow().seconds + Math.min(passed, 0.25);
    if (next >= length && !loop) setClock({ playing: false, seconds: length });
    else {
      setClock({ seconds: next % length });
      invalidate();
    }
  });
  return null;
}
