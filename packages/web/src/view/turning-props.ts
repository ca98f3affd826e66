import { PROP_WHEEL, type TurnTrack, type WheelPick } from '@kelp/core';
import { useMemo } from 'react';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';

/** One for all: what is drawn of props hangs on it. */
const NONE: ReadonlyMap<string, TurnTrack> = new Map();

/** How props that are wheels of a belt turn with the clock, by the id of the prop. */
export function useTurningProps(): ReadonlyMap<string, TurnTrack> {
  const builds = useComputed('builds');
  const pieces = useAppSelector((state) => state.project.document?.pieces);
  return useMemo(() => {
    const out = new Map<string, TurnTrack>();
    for (const { id, path } of pieces ?? [])
      for (const track of builds.get(id)?.motion ?? []) {
        if (track.kind !== 'turn' || !track.part.startsWith(PROP_WHEEL)) continue;
        const wheels = path.parameters['wheels'] as readonly WheelPick[] | undefined;
        const prop = wheels?.[Number(track.part.slice(PROP_WHEEL.length)) - 1]?.prop;
        if (prop) out.set(prop, track);
      }
    return out.size > 0 ? out : NONE;
  }, [builds, pieces]);
}
