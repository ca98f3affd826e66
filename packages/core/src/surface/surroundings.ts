import type { Shades } from '../document/picture-shade.js';
import { joinKeys } from '../numeric/key.js';
import { BoxTree } from './box-tree.js';
import { FreeBalls } from './free-balls.js';
import { type Reads, readBall } from './reads.js';
import { copyHit, createHit, type Surface, type SurfaceHit } from './surface.js';
import { copyFound, type Found } from './triangle-tree.js';

/** Directions along no axis, so that no ray runs within the faces of boxes. */
const WAYS_OUT = [
  [0.267, 0.802, 0.534],
  [-0.535, -0.267, 0.802],
  [0.802, -0.535, -0.267],
  [-0.267, -0.802, -0.534],
] as const;

/** The box round a question is this many times as wide as what it asked for. */
const ROOM = 2;

/**
 * The props a piece can touch, each under its id. One tree over their boxes stands before the trees of their triangles:
 * a question costs what is near, not what is there. Of places equally near, the first prop's counts.
 */
export class Surroundings {
  private readonly ids: string[];
  private readonly surfaces: Surface[];
  private readonly numbers: ReadonlyMap<string, number>;
  private readonly tree: BoxTree;
  private readonly scratch = createHit();
  private reads: Reads | undefined;
  // of the query that runs: where it asks, and what it found so far
  private readonly asked = new Float64Array(3);
  private best = -1;
  private distance = Infinity;
  private readonly found: Found = { triangle: -1, x: 0, y: 0, z: 0, measure: Infinity };
  /** The prop that was nearest last is asked first. */
  private last = 0;
  /** A box round the last questions, and the props it meets. */
  private readonly around = Float64Array.of(0, 0, 0, -1, -1, -1);
  private neighbours: number[] = [];
  /** By the prop they are before, and the one that alone counts. */
  private readonly balls = new Map<string, FreeBalls>();

  /**
   * @param keys what each prop is known by when results are kept; its id when absent
   * @param shades of the pictures that units may ask for, by content hash
   * @param hidden props that nothing can touch, but whose shape may be asked for by name
   */
  constructor(
    props: ReadonlyMap<string, Surface>,
    private readonly keys?: ReadonlyMap<string, string>,
    readonly shades: ReadonlyMap<string, Shades> = new Map(),
    private readonly hidden: ReadonlyMap<string, Surface> = new Map(),
  ) {
    this.ids = [...props.keys()];
    this.surfaces = [...props.values()];
    this.numbers = new Map(this.ids.map((id, i) => [id, i]));
    this.tree = new BoxTree(this.surfaces.map(({ bounds }) => bounds));
  }

  /** Runs some work and writes down what it asks of the props. */
  recording<T>(reads: Reads, work: () => T): T {
    const outer = this.reads;
    this.reads = reads;
    try {
      return work();
    } finally {
      this.reads = outer;
    }
  }

  /** A short text that is the same as long as what was asked would be answered the same. */
  keyOf({ box, named, count }: Reads): string {
    const near = box[0] <= box[3] ? this.tree.within(box, box.subarray(3)) : [];
    const key = (id: string) => {
      const there = this.numbers.has(id) ? '' : this.hidden.has(id) ? ' hidden' : ' none';
      return `${id}${there} ${this.keys?.get(id) ?? ''}`;
    };
    const parts = near.map((i) => key(this.ids[i]));
    for (const id of named) parts.push(key(id));
    if (count) parts.push(this.surfaces.length > 1 ? 'many' : this.ids.join());
    return parts.length === 0 ? '' : joinKeys(...parts);
  }

  get isEmpty(): boolean {
    if (this.reads) this.reads.count = true;
    return this.surfaces.length === 0;
  }

  surface(id: string): Surface | undefined {
    this.reads?.named.add(id);
    return this.surfaces[this.numbers.get(id) ?? -1];
  }

  /** A prop by name, hidden or not: for its shape, not for what it touches. */
  shape(id: string): Surface | undefined {
    return this.surface(id) ?? this.hidden.get(id);
  }

  /** The one prop there is; undefined where there are none or several. */
  get only(): Surface | undefined {
    if (this.reads) this.reads.count = true;
    return this.surfaces.length === 1 ? this.surfaces[0] : undefined;
  }

  /**
   * Closest place on any prop (or on `only`), nearer than `within`.
   * Returns the id of the prop, or undefined when nothing is that near.
   */
  closest(x: number, y: number, z: number, hit: SurfaceHit, within = Infinity, only?: string): string | undefined {
    this.best = -1;
    this.distance = within;
    if (only !== undefined) {
      const surface = this.surface(only);
      return surface?.closest(x, y, z, hit, within) ? only : undefined;
    }
    this.asked[0] = x;
    this.asked[1] = y;
    this.asked[2] = z;
    if (this.last < this.surfaces.length) this.visit(this.last, within);
    this.askNear(x, y, z);
    const { best } = this;
    if (this.reads) readBall(this.reads, x, y, z, this.distance);
    if (best < 0) return undefined;
    this.last = best;
    hit.distance = this.distance;
    const { triangle, x: lx, y: ly, z: lz } = this.found;
    this.surfaces[best].fill(triangle, lx, ly, lz, hit);
    return this.ids[best];
  }

  /**
   * Gives for each face of a prop a ball, middle and radius, that touches it from before and has no surface of any
   * prop (or of `only`) within; no ball where that would be inside a prop.
   */
  freeBefore(id: string, only?: string): ((face: number, out: Float64Array) => void) | undefined {
    const surface = this.surface(id);
    if (!surface) return undefined;
    const key = JSON.stringify([id, only]);
    let balls = this.balls.get(key);
    if (!balls) {
      balls = new FreeBalls(
        surface,
        (x, y, z, met, within) => this.closest(x, y, z, met, within, only) !== undefined,
        (x, y, z) => this.enclosing(x, y, z) !== undefined,
      );
      this.balls.set(key, balls);
    }
    const known = balls;
    return (face, out) => {
      known.before(face, out);
      // it is known from before, perhaps: what it hangs on is written down all the same
      if (this.reads && out[3] > 0) readBall(this.reads, out[0], out[1], out[2], out[3]);
    };
  }

  /**
   * Asks all props that may be nearer than what was found. Neighbouring questions are about the same few props: those of
   * a box round the last question are kept, and the tree is gone through again only where the next one leaves it.
   */
  private askNear(x: number, y: number, z: number): void {
    const { around } = this;
    const r = this.distance;
    const inside =
      x - r >= around[0] &&
      y - r >= around[1] &&
      z - r >= around[2] &&
      x + r <= around[3] &&
      y + r <= around[4] &&
      z + r <= around[5];
    if (!inside) {
      if (!(r < Infinity)) {
        this.tree.near(x, y, z, r, this.visit);
        return;
      }
      const room = ROOM * r;
      around[0] = x - room;
      around[1] = y - room;
      around[2] = z - room;
      around[3] = x + room;
      around[4] = y + room;
      around[5] = z + room;
      this.neighbours = this.tree.within(around, around.subarray(3));
    }
    for (const item of this.neighbours) this.visit(item, this.distance);
  }

  private readonly visit = (item: number, within: number): number => {
    if (item === this.best) return within;
    const { asked } = this;
    const far = this.surfaces[item].distance(asked[0], asked[1], asked[2], within);
    if (far < this.distance || (far === this.distance && this.best >= 0 && item < this.best)) {
      this.best = item;
      this.distance = far;
      // two props may share one tree, whose answer the next question writes over
      copyFound(this.surfaces[item].found, this.found);
    }
    return this.distance;
  };

  /** First prop that a ray meets and where. Returns its id, or undefined when nothing is in the way. */
  cast(origin: ArrayLike<number>, direction: ArrayLike<number>, hit: SurfaceHit): string | undefined {
    let best = -1;
    const found = this.scratch;
    this.tree.along(origin, direction, (item, within) => {
      if (!this.surfaces[item].cast(origin, direction, found, within)) return within;
      if (found.distance === within && best >= 0 && item > best) return within;
      best = item;
      copyHit(found, hit);
      return found.distance;
    });
    // a ray may meet what is put in its way anywhere: it is not worth more than knowing every prop
    if (this.reads) readBall(this.reads, origin[0], origin[1], origin[2], best < 0 ? Infinity : hit.distance);
    return this.ids[best];
  }

  /**
   * How far (x, y, z) is outside the nearest prop (or `only`), negative when it is inside; Infinity beyond `within`.
   * Inside means behind the nearest face; where the nearest place lies on an edge or corner, whose faces may disagree,
   * a ray decides: it leaves a closed body through the back of a face.
   */
  signedDistance(x: number, y: number, z: number, hit: SurfaceHit, within: number, only?: string): number {
    const id = this.closest(x, y, z, hit, within, only);
    if (id === undefined) return Infinity;
    const dx = x - hit.point[0];
    const dy = y - hit.point[1];
    const dz = z - hit.point[2];
    const front = dx * hit.normal[0] + dy * hit.normal[1] + dz * hit.normal[2];
    const onEdge = Math.abs(front) < 0.999 * hit.distance;
    if (!onEdge || hit.distance < 1e-9) return front < 0 ? -hit.distance : hit.distance;
    return this.isBehindFaces(this.numbers.get(id) ?? -1, x, y, z) ? -hit.distance : hit.distance;
  }

  /**
   * Whether (x, y, z) lies behind the surface of a prop whose closest place is `hit`. What is behind a face may be beside
   * the edge of a blade: there a ray decides.
   */
  isBehind(id: string, x: number, y: number, z: number, { point, normal, distance }: SurfaceHit): boolean {
    const front = (x - point[0]) * normal[0] + (y - point[1]) * normal[1] + (z - point[2]) * normal[2];
    if (front >= 0) return false;
    return -front >= 0.999 * distance || this.isBehindFaces(this.numbers.get(id) ?? -1, x, y, z);
  }

  /**
   * The prop that (x, y, z) is inside of, however deep: one whose faces show their backs in every direction asked. Open
   * meshes have a way out somewhere, and enclose nothing.
   */
  enclosing(x: number, y: number, z: number): string | undefined {
    if (this.reads) readBall(this.reads, x, y, z, 0);
    const at = [x, y, z];
    const item = this.tree
      .within(at, at)
      .find((candidate) => WAYS_OUT.every((way) => this.leavesBehind(candidate, at, way)));
    return item === undefined ? undefined : this.ids[item];
  }

  private isBehindFaces(item: number, x: number, y: number, z: number): boolean {
    return this.leavesBehind(item, [x, y, z], WAYS_OUT[0]);
  }

  /** Whether the first face of a prop that a ray meets shows it its back. */
  private leavesBehind(item: number, at: ArrayLike<number>, way: readonly number[]): boolean {
    if (!this.surfaces[item]?.cast(at, way, this.scratch)) return false;
    const { normal } = this.scratch;
    return normal[0] * way[0] + normal[1] * way[1] + normal[2] * way[2] > 0;
  }
}
