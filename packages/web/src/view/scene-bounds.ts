import { type Bounds, boundsOf, type Mesh, type Prop, placementMatrix, transformMesh } from '@kelp/core';
import { useMemo, useRef } from 'react';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import type { Guide } from '../evaluation/protocol.js';

/** What an empty view shows: a metre of ground. */
const EMPTY_SCENE: Bounds = { min: [-0.5, 0, -0.5], max: [0.5, 0.5, 0.5] };

/** Boxes that were measured; documents and builds are replaced, never changed, so an old box stays true. */
const measuredProps = new WeakMap<Prop, { mesh: Mesh; bounds: Bounds }>();
const measuredGuides = new WeakMap<Guide, Bounds>();

function propBounds(prop: Prop, mesh: Mesh): Bounds {
  const known = measuredProps.get(prop);
  if (known?.mesh === mesh) return known.bounds;
  const bare = { ...mesh, index: new Uint32Array(0) };
  const bounds = boundsOf(transformMesh(bare, placementMatrix(prop.placement)).position);
  measuredProps.set(prop, { mesh, bounds });
  return bounds;
}

function guideBounds(guide: Guide): Bounds {
  const bounds = measuredGuides.get(guide) ?? boundsOf(guide.position);
  measuredGuides.set(guide, bounds);
  return bounds;
}

/** Box round all that is shown. */
export function useSceneBounds(): Bounds {
  const props = useAppSelector((state) => state.project.document?.props);
  const meshes = useComputed('meshes');
  const builds = useComputed('builds');
  const last = useRef<Bounds>(EMPTY_SCENE);
  return useMemo(() => {
    const all: Bounds[] = [];
    for (const prop of props ?? []) {
      const mesh = prop.visible ? meshes.get(prop.mesh) : undefined;
      if (mesh) all.push(propBounds(prop, mesh));
    }
    for (const { guide } of builds.values()) if (guide.position.length > 0) all.push(guideBounds(guide));
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
