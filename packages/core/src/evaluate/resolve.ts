import type { ControlPoints } from '../curve/catmull-rom.js';
import type { DrawnCurve, KelpDocument } from '../document/document.js';
import type { Mesh } from '../mesh/mesh.js';
import { hashText } from '../numeric/random.js';
import { anchorPosition } from '../surface/anchor.js';
import { Surface } from '../surface/surface.js';
import { Surroundings } from '../surface/surroundings.js';

/** The points of a drawn curve where they are now: held ones ride on their prop, the others stand where they were put. */
export function controlPoints(curve: DrawnCurve, surroundings: Surroundings): ControlPoints {
  const count = curve.points.length;
  const out: ControlPoints = {
    position: new Float64Array(3 * count),
    corner: new Uint8Array(count),
    radius: new Float32Array(count),
    ...(curve.points.some((point) => point.roll) ? { roll: new Float32Array(count) } : {}),
    closed: curve.closed,
    id: hashText(curve.id),
  };
  curve.points.forEach((point, i) => {
    if (!point.anchor || !anchorPosition(point.anchor, surroundings, out.position, 3 * i))
      out.position.set(point.position, 3 * i);
    out.corner[i] = point.corner ? 1 : 0;
    out.radius[i] = point.radius;
    if (out.roll) out.roll[i] = point.roll ?? 0;
  });
  return out;
}

/** Keeps the tree of each mesh, by content hash, so that a prop that moves is not built again. */
export class SurfaceStore {
  private readonly surfaces = new Map<string, Surface>();

  add(hash: string, mesh: Pick<Mesh, 'position' | 'index'>): void {
    if (!this.surfaces.has(hash)) this.surfaces.set(hash, Surface.of(mesh));
  }

  has(hash: string): boolean {
    return this.surfaces.has(hash);
  }

  /** The visible props of a document where they stand; a prop whose mesh is not in the store is left out. */
  surroundings(document: Pick<KelpDocument, 'props'>): { surroundings: Surroundings; key: string } {
    const props = new Map<string, Surface>();
    for (const prop of document.props) {
      const surface = prop.visible ? this.surfaces.get(prop.mesh) : undefined;
      if (surface) props.set(prop.id, surface.at(prop.placement));
    }
    const key = JSON.stringify(
      document.props.filter((prop) => props.has(prop.id)).map((prop) => [prop.id, prop.mesh, prop.placement]),
    );
    return { surroundings: new Surroundings(props), key };
  }
}
