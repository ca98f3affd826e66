import { type Bounds, boundsOf, type Mesh, type Prop, placementMatrix } from '@kelp/core';
import { useMemo, useRef } from 'react';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';

/** What an empty view shows: a metre of ground. */
const EMPTY_SCENE: Bounds = { min: [-0.5, 0, -0.5], max: [0.5, 0.5, 0.5] };

/** Boxes that were measured; documents and meshes are replaced, never changed, so an old box stays true. */
const measuredProps = new WeakMap<Prop, { mesh: Mesh; bounds: Bounds }>();
const measuredMeshes = new WeakMap<Mesh, Bounds>();

/** World box of a prop: exact where it is not turned, the box of its turned box else. */
function propBounds(prop: Prop, mesh: Mesh): Bounds {
  const known = measuredProps.get(prop);
  if (known?.mesh === mesh) return known.bounds;
  const own = measuredMeshes.get(mesh) ?? boundsOf(mesh.position);
  measuredMeshes.set(mesh, own);
  const m = placementMatrix(prop.placement);
  const corners: number[] = [];
  for (let corner = 0; corner < 8; corner++) {
    const [x, y, z] = [0, 1, 2].map((k) => (corner & (1 << k) ? own.max[k] : own.min[k]));
    for (let k = 0; k < 3; k++) corners.push(m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k]);
  }
  const bounds = boundsOf(corners);
  measuredProps.set(prop, { mesh, bounds });
  return bounds;
}

/** Box round all that is shown. */
export function useSceneBounds(): Bounds {
  const props = useAppSelector((state) => state.project.document?.props);
  const meshes = useComputed('meshes');
  const builds = useComputed('builds');
  return useMemo(() => {
    const all: Bounds[] = [];
    for (const prop of props ?? []) {
      const mesh = prop.visible ? meshes.get(prop.mesh) : undefined;
      if (mesh) all.push(propBounds(prop, mesh));
    }
    for (const { bounds } of builds.values()) if (bounds) all.push(bounds);
    if (all.length === 0) return EMPTY_SCENE;
    const joined: Bounds = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
    for (const { min, max } of all)
      for (let k = 0; k < 3; k++) {
        joined.min[k] = Math.min(joined.min[k], min[k]);
        joined.max[k] = Math.max(joined.max[k], max[k]);
      }
    return joined;
  }, [props, meshes, builds]);
}

/**
 * The same for light and rings, which follow the scene, but not every millimetre of a drag. Which box is kept depends on what
 * came before: nothing that must be the same each time (as the first look is) is measured by it.
 */
export function useSteadyBounds(): Bounds {
  const joined = useSceneBounds();
  const last = useRef<Bounds>(EMPTY_SCENE);
  const moved = Math.max(
    ...[0, 1, 2].map(
      (k) => Math.abs(joined.min[k] - last.current.min[k]) + Math.abs(joined.max[k] - last.current.max[k]),
    ),
  );
  const size = Math.max(...[0, 1, 2].map((k) => joined.max[k] - joined.min[k]));
  if (moved > 0.08 * size) last.current = joined;
  return last.current;
}
