import type { ControlPoints } from '../curve/catmull-rom.js';
import type { DrawnCurve, KelpDocument, Prop } from '../document/document.js';
import type { Shades } from '../document/picture-shade.js';
import type { Mesh } from '../mesh/mesh.js';
import { joinKeys, keyOf } from '../numeric/key.js';
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

/** Keeps the tree of each mesh and the shades of each picture, by content hash: a prop that moves is not built again. */
export class SurfaceStore {
  private readonly surfaces = new Map<string, Surface>();
  private readonly shades = new Map<string, Shades>();
  /** Props where they are; a prop that did not change is not placed again. */
  private readonly placed = new WeakMap<Prop, { surface: Surface; key: string }>();
  private last: { props: readonly Prop[]; meshes: number; surroundings: Surroundings } | undefined;

  add(hash: string, mesh: Pick<Mesh, 'position' | 'index'>): void {
    if (!this.surfaces.has(hash)) this.surfaces.set(hash, Surface.of(mesh));
  }

  addShades(hash: string, shades: Shades): void {
    this.shades.set(hash, shades);
  }

  has(hash: string): boolean {
    return this.surfaces.has(hash) || this.shades.has(hash);
  }

  /**
   * The visible props of a document where they are; a prop whose mesh is not in the store is left out. The same list
   * of props gives the same surroundings.
   */
  surroundings({ props }: Pick<KelpDocument, 'props'>): Surroundings {
    const { last } = this;
    if (last && last.props === props && last.meshes === this.surfaces.size) return last.surroundings;
    const there = new Map<string, Surface>();
    const keys = new Map<string, string>();
    const hidden = new Map<string, Surface>();
    for (const prop of props) {
      const placed = this.place(prop);
      if (!placed) continue;
      (prop.visible ? there : hidden).set(prop.id, placed.surface);
      keys.set(prop.id, placed.key);
    }
    const surroundings = new Surroundings(there, keys, this.shades, hidden);
    this.last = { props, meshes: this.surfaces.size, surroundings };
    return surroundings;
  }

  private place(prop: Prop): { surface: Surface; key: string } | undefined {
    const known = this.placed.get(prop);
    const mesh = this.surfaces.get(prop.mesh);
    if (known || !mesh) return known;
    const made = { surface: mesh.at(prop.placement), key: joinKeys(prop.mesh, keyOf(prop.placement)) };
    this.placed.set(prop, made);
    return made;
  }
}
