import { type Bounds, boundsOf, placementMatrix, transformMesh } from '@kelp/core';
import { useMemo, useRef } from 'react';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';

/** What an empty view shows: a metre of ground. */
const EMPTY_SCENE: Bounds = { min: [-0.5, 0, -0.5], max: [0.5, 0.5, 0.5] };

/** Box round all that is shown. */
export function useSceneBounds(): Bounds {
  const props = useAppSelector((state) => state.project.document?.props);
  const { meshes, builds } = useComputed();
  const last = useRef<Bounds>(EMPTY_SCENE);
  return useMemo(() => {
    const all: Bounds[] = [];
    for (const { mesh: hash, placement, visible } of props ?? []) {
      const mesh = visible ? meshes.get(hash) : undefined;
      if (mesh)
        all.push(boundsOf(transformMesh({ ...mesh, index: new Uint32Array(0) }, placementMatrix(placement)).position));
    }
    for (const { rails } of builds.values()) if (rails.position.length > 0) all.push(boundsOf(rails.position));
    if (all.length === 0) return EMPTY_SCENE;
    const joined: Bounds = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
    for (const { min, max } of all)
      for (let k = 0; k < 3; k++) {
        joined.min[k] = Math.min(joined.min[k], min[k]);
        joined.max[k] = Math.max(joined.max[k], max[k]);
      }
    // light and rings follow the scene, but not every millimetre of a drag
    const moved = Math.max(
      ...[0, 1, 2].map(
        (k) => Math.abs(joined.min[k] - last.current.min[k]) + Math.abs(joined.max[k] - last.current.max[k]),
      ),
    );
    const size = Math.max(...[0, 1, 2].map((k) => joined.max[k] - joined.min[k]));
    if (moved > 0.08 * size) last.current = joined;
    return last.current;
  }, [props, meshes, builds]);
}
