import { boundsOf, createHit } from '@kelp/core';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { useSurroundings } from '../pens/surroundings.js';

/** Rays begin so high above everything, metres. */
const SKY = 1e4;

/** A place to put something new: on top of the chosen prop, or of whatever stands in the middle of all props. */
export function useFreePlace(): () => readonly [number, number, number] {
  const all = useAppSelector((state) => state.project.document?.props);
  const chosen = useAppSelector((state) => state.view.prop);
  const meshes = useComputed('meshes');
  const surroundings = useSurroundings();
  return () => {
    const props = all?.filter(({ id, visible }) => visible && (!chosen || id === chosen)) ?? [];
    const corners = props.flatMap(({ mesh, placement: { position, scale } }) => {
      const found = meshes.get(mesh);
      if (!found) return [];
      const { min, max } = boundsOf(found.position);
      return [min, max].flatMap((corner) => corner.map((value, k) => value * scale + position[k]));
    });
    const { min, max } = boundsOf(corners);
    const [x, z] = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2];
    const hit = createHit();
    return surroundings().cast([x, SKY, z], [0, -1, 0], hit) ? [hit.point[0], hit.point[1], hit.point[2]] : [x, 0, z];
  };
}
