import type { Box, ManifoldToplevel } from 'manifold-3d';
import { KelpError } from '../errors.js';

let solids: ManifoldToplevel | undefined;
let loading: Promise<void> | undefined;

/**
 * Loads what makes level sets (manifold-3d, compiled). It is half a megabyte: only who needs one waits for it.
 * @param file where its compiled part is, when not beside its own code
 */
export function loadLevelSets(file?: string): Promise<void> {
  loading ??= (async () => {
    const { default: load } = await import('manifold-3d');
    const loaded = await load(file === undefined ? undefined : { locateFile: () => file });
    loaded.setup();
    solids = loaded;
  })();
  return loading;
}

/** Edges shorter than such a share of a cell are collapsed: they come where the grid just touches the surface. */
const SLIVER = 0.06;

/** Whether level sets can be made at once. */
export const hasLevelSets = (): boolean => solids !== undefined;

/** Samples a level set takes: two grids, one shifted by half a cell. */
export const levelSetSamples = ({ min, max }: Box, cell: number): number =>
  2 * [0, 1, 2].reduce((all, k) => all * (1 + (max[k] - min[k]) / cell), 1);

/**
 * The surface on which a field is 0, as one closed manifold mesh: marching tetrahedra over a body-centred grid.
 * @param field inside above 0, in metres near the surface; what it throws is thrown on
 * @param cell longest edge, about, metres
 * @throws KelpError NOT_READY before `loadLevelSets` has answered
 */
export function levelSet(
  field: (x: number, y: number, z: number) => number,
  box: Box,
  cell: number,
): { position: Float32Array; index: Uint32Array } {
  if (!solids) throw new KelpError('NOT_READY', 'The module that merges surfaces is not loaded');
  const sampled = solids.Manifold.levelSet(([x, y, z]) => field(x, y, z), box, cell);
  const solid = sampled.simplify(SLIVER * cell);
  sampled.delete();
  try {
    const { vertProperties, numProp, triVerts } = solid.getMesh();
    if (numProp === 3) return { position: vertProperties, index: triVerts };
    const position = new Float32Array((3 * vertProperties.length) / numProp);
    for (let v = 0; v < position.length / 3; v++)
      for (let k = 0; k < 3; k++) position[3 * v + k] = vertProperties[numProp * v + k];
    return { position, index: triVerts };
  } finally {
    solid.delete();
  }
}
