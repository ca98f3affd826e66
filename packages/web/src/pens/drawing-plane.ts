import { useMemo } from 'react';
import { Plane, Vector3 } from 'three';
import { useAppSelector } from '../app/store.js';
import { useSteadyBounds } from '../view/scene-bounds.js';

/** The plane on which a pen draws beside all props; the upright ones go through the middle of everything. */
export function useDrawingPlane(): Plane {
  const plane = useAppSelector((state) => state.view.plane);
  const { min, max } = useSteadyBounds();
  const [x, z] = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2];
  return useMemo(() => {
    if (plane === 'front') return new Plane(new Vector3(0, 0, 1), -z);
    if (plane === 'side') return new Plane(new Vector3(1, 0, 0), -x);
    return new Plane(new Vector3(0, 1, 0), 0);
  }, [plane, x, z]);
}
