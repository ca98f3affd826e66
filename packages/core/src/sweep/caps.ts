import type { Mesh } from '../mesh/mesh.js';
import type { Section } from '../section/section.js';

/** How a swept body ends. */
export type EndKind = 'flat' | 'round' | 'pointed' | 'chamfered' | 'plate' | 'open';

interface CapWriter {
  mesh: Mesh;
  section: Section;
  /** Next free vertex and places in the index; quads stand before triangles. */
  vertex: number;
  quadAt: number;
  triangleAt: number;
}

const domeRings = (section: Section): number => Math.max(2, Math.round(section.rim.length / 4));

/**
 * How a section ends where it is asked to end so: what grows or shrinks about its middle fits on none with holes or an
 * inner corner, a sheet has no ends.
 */
export const endOf = (section: Section, kind: EndKind): EndKind =>
  section.open ? 'open' : !section.domed && kind !== 'open' ? 'flat' : kind;

/** Steps of an end, each from where the last one stood: outwards from the rim, and on along the line, in reaches. */
const STEPS: Partial<Record<EndKind, readonly { out: number; on: number }[]>> = {
  chamfered: [{ out: -0.25, on: 0.25 }],
  plate: [
    { out: 0.6, on: 0 },
    { out: 0, on: 0.3 },
  ],
};

export function capSize(section: Section, asked: EndKind): { vertices: number; triangles: number } {
  const kind = endOf(section, asked);
  if (kind === 'open') return { vertices: 0, triangles: 0 };
  const faces = section.face.length;
  const columns = section.x.length;
  if (kind === 'pointed') return { vertices: columns + faces, triangles: faces };
  if (kind === 'round') return { vertices: domeRings(section) * columns + faces, triangles: faces };
  const stepped = 2 * (STEPS[kind]?.length ?? 0) * columns;
  return section.cap
    ? { vertices: stepped + section.rim.length, triangles: section.cap.length / 3 }
    : { vertices: stepped + section.rim.length + 1, triangles: section.rim.length };
}

export function capQuads(section: Section, asked: EndKind): number {
  const kind = endOf(section, asked);
  const bands = kind === 'round' ? domeRings(section) - 1 : (STEPS[kind]?.length ?? 0);
  return bands * section.face.length;
}

/**
 * Closes one end of a body. The ring it sits on is read back from the mesh, so the rim is the same to the bit and the
 * result watertight.
 * @param ringAt first vertex of the end's ring
 * @param out −1 at the start of the curve, 1 at its end
 * @param travel unit direction of the curve there: of a ring that has shrunk to a place, the only direction there is
 */
export function writeCap(
  writer: CapWriter,
  asked: EndKind,
  ringAt: number,
  out: 1 | -1,
  travel: ArrayLike<number>,
): void {
  const kind = endOf(writer.section, asked);
  if (kind === 'open') return;
  const ring = readRing(writer, ringAt, travel);
  if (kind === 'round') writeDome(writer, ringAt, ring, out);
  else if (kind === 'pointed') writePoint(writer, ringAt, ring, out);
  else writeFlat(writer, writeSteps(writer, ringAt, ring, out, STEPS[kind] ?? []), ring, out);
}

interface EndRing {
  center: [number, number, number];
  /** Unit direction of travel. */
  axis: [number, number, number];
  v: number;
}

/** Middle and direction of a ring, from its own places: the plane of three of them, the mean weighted by the outline. */
function readRing({ mesh, section }: CapWriter, ringAt: number, travel: ArrayLike<number>): EndRing {
  const { position: p, uv } = mesh;
  const { rim, x, y } = section;
  // two columns span the ring's plane: P = C + x·A + y·B; solve for A, B and C from three rim places
  const [i, j, k] = spread(section).map((n) => rim[n]);
  const x1 = x[j] - x[i];
  const y1 = y[j] - y[i];
  const x2 = x[k] - x[i];
  const y2 = y[k] - y[i];
  const det = x1 * y2 - x2 * y1;
  const center: EndRing['center'] = [0, 0, 0];
  const a = [0, 0, 0];
  const b = [0, 0, 0];
  for (let n = 0; n < 3; n++) {
    const base = p[3 * (ringAt + i) + n];
    const d1 = p[3 * (ringAt + j) + n] - base;
    const d2 = p[3 * (ringAt + k) + n] - base;
    a[n] = (d1 * y2 - d2 * y1) / det;
    b[n] = (d2 * x1 - d1 * x2) / det;
    center[n] = base - x[i] * a[n] - y[i] * b[n];
  }
  const axis: EndRing['axis'] = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
  const size = Math.hypot(...axis);
  for (let n = 0; n < 3; n++) axis[n] = size > 0 ? axis[n] / size : travel[n];
  return { center, axis, v: uv[2 * ringAt + 1] };
}

const spreads = new WeakMap<Section, readonly [number, number, number]>();

/** Three places of the rim that are far apart and in no line, so that they say where its plane is. */
function spread(section: Section): readonly [number, number, number] {
  const known = spreads.get(section);
  if (known) return known;
  const { rim, x, y } = section;
  const far = (size: (n: number) => number) => {
    let best = 0;
    for (let n = 1; n < rim.length; n++) if (size(n) > size(best)) best = n;
    return best;
  };
  const from = (n: number): [number, number] => [x[rim[n]] - x[rim[0]], y[rim[n]] - y[rim[0]]];
  const second = far((n) => Math.hypot(...from(n)));
  const [ux, uy] = from(second);
  const third = far((n) => Math.abs(ux * from(n)[1] - uy * from(n)[0]));
  const out = [0, second, third] as const;
  spreads.set(section, out);
  return out;
}

function writeFlat(writer: CapWriter, ringAt: number, ring: EndRing, out: 1 | -1): void {
  const { mesh, section } = writer;
  const { position, uv, index } = mesh;
  const { rim, cap } = section;
  const first = writer.vertex;
  // about its middle where that sees all of the rim
  const count = cap ? rim.length : rim.length + 1;
  for (let k = 0; k < count; k++) {
    const v = first + k;
    const from = 3 * (ringAt + rim[k % rim.length]);
    for (let n = 0; n < 3; n++) {
      position[3 * v + n] = k < rim.length ? position[from + n] : ring.center[n];
      mesh.normal[3 * v + n] = out * ring.axis[n];
    }
    const x = k < rim.length ? section.x[rim[k]] : 0;
    const y = k < rim.length ? section.y[rim[k]] : 0;
    uv[2 * v] = 0.5 + x / (2 * section.reach);
    uv[2 * v + 1] = 0.5 + y / (2 * section.reach);
  }
  const put = (a: number, b: number, c: number) => {
    index[writer.triangleAt] = first + a;
    index[writer.triangleAt + 1] = first + (out > 0 ? b : c);
    index[writer.triangleAt + 2] = first + (out > 0 ? c : b);
    writer.triangleAt += 3;
  };
  if (cap) for (let t = 0; t < cap.length; t += 3) put(cap[t], cap[t + 1], cap[t + 2]);
  else for (let k = 0; k < rim.length; k++) put(rim.length, k, (k + 1) % rim.length);
  writer.vertex = first + count;
}

/**
 * Bands between rings that stand off each other, with sharp edges between: places move along the mitre of their two
 * sides, so that the outline keeps its distance; a band's normal is its side's own, leaning as the band does.
 * Returns the first vertex of the last ring; the middle of `ring` goes along.
 */
function writeSteps(
  writer: CapWriter,
  ringAt: number,
  ring: EndRing,
  out: 1 | -1,
  steps: readonly { out: number; on: number }[],
): number {
  if (steps.length === 0) return ringAt;
  const { mesh, section } = writer;
  const { position, normal, uv } = mesh;
  const columns = section.x.length;
  const { axis, center } = ring;
  const { move, least, most } = movesOf(writer, ringAt, ring, steps[0].out);
  const sides = sideNormals(writer, ringAt, axis);
  let from = ringAt;
  for (const asked of steps) {
    // a bevel is as deep as it is wide, also where the outline allows less
    const less = asked.out < 0 ? Math.min(1, most / -asked.out) : 1;
    const step = { out: less * asked.out, on: less * asked.on };
    const size = Math.hypot(step.out, step.on) || 1;
    const base = writer.vertex;
    for (let k = 0; k < 2 * columns; k++) {
      const column = 3 * (k % columns);
      const to = 3 * (base + k);
      const far = k < columns ? 0 : least;
      for (let n = 0; n < 3; n++) {
        const moved = step.out * move[column + n] + out * step.on * axis[n];
        position[to + n] = position[3 * from + column + n] + far * moved;
        normal[to + n] = (step.on * sides[column + n] - out * step.out * axis[n]) / size;
      }
      uv[(2 * to) / 3] = section.u[k % columns];
      uv[(2 * to) / 3 + 1] = ring.v + out * far * size;
    }
    for (const a of section.face) putQuad(writer, base + a, columns, out);
    for (let n = 0; n < 3; n++) center[n] += out * step.on * least * axis[n];
    ring.v += out * least * size;
    writer.vertex = base + 2 * columns;
    from = base + columns;
  }
  return from;
}

/** One quad from a column and the next to the ring behind them. */
function putQuad(writer: CapWriter, i: number, columns: number, out: 1 | -1): void {
  const j = i + columns;
  writer.mesh.index.set(out > 0 ? [i, i + 1, j + 1, i, j + 1, j] : [i, j, j + 1, i, j + 1, i + 1], writer.quadAt);
  writer.quadAt += 6;
}

/** The normals of a ring's columns within its own plane. */
function sideNormals({ mesh, section }: CapWriter, ringAt: number, axis: EndRing['axis']): Float64Array {
  const sides = new Float64Array(3 * section.x.length);
  for (let k = 0; k < sides.length; k += 3) {
    const normal = mesh.normal.subarray(3 * ringAt + k, 3 * ringAt + k + 3);
    const flat = normal[0] * axis[0] + normal[1] * axis[1] + normal[2] * axis[2];
    const level = [0, 1, 2].map((n) => normal[n] - flat * axis[n]);
    const size = Math.hypot(...level) || 1;
    for (let n = 0; n < 3; n++) sides[k + n] = level[n] / size;
  }
  return sides;
}

/**
 * Of each column, how it moves where the outline moves outwards by 1 (inwards where `way` is below 0): along the mitre of
 * its sides; away from the middle where a side would turn round as it shrinks. `least` is the way from the middle to the
 * nearest side, `most` how far the outline can move inwards, in those.
 */
function movesOf({ mesh, section }: CapWriter, ringAt: number, { center, axis }: EndRing, way: number) {
  const { position } = mesh;
  const { rim } = section;
  const count = rim.length;
  const place = (k: number) => {
    const at = 3 * (ringAt + rim[k % count]);
    return [position[at], position[at + 1], position[at + 2]];
  };
  /** Unit normal of the side from a place to the next, out of the outline, its length, and how far from the middle it runs. */
  const sides = Array.from(rim, (_, k) => {
    const [a, b] = [place(k), place(k + 1)];
    const d = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    const n = [d[1] * axis[2] - d[2] * axis[1], d[2] * axis[0] - d[0] * axis[2], d[0] * axis[1] - d[1] * axis[0]];
    const length = Math.hypot(...n);
    const normal = n.map((value) => value / (length || 1));
    return { normal, length, far: normal.reduce((sum, value, i) => sum + value * (a[i] - center[i]), 0) };
  });
  /** Tangent of half the turn from the side before a place to the side after it: so much a side grows there. */
  const turn = (k: number) => {
    const [u, v] = [sides[(k + count - 1) % count].normal, sides[k % count].normal];
    const sine = dotOf(axis, [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]);
    return sine / Math.max(LEAST_LEAN, 1 + dotOf(u, v));
  };
  const least = sides.reduce((a, { far }) => Math.min(a, far), Infinity);
  const room = sides.reduce((a, { length }, k) => {
    const grows = Math.sign(way) * (turn(k) + turn(k + 1));
    return grows < 0 ? Math.min(a, -length / grows) : a;
  }, Infinity);
  const most = (MOST_SHRINK * room) / (least || 1);
  const mitred = way < 0 || way <= most;
  const move = new Float64Array(3 * section.x.length);
  let column = 0;
  const put = (k: number) => {
    const [u, v] = [sides[(k + count - 1) % count].normal, sides[k % count].normal];
    const lean = Math.max(LEAST_LEAN, 1 + dotOf(u, v));
    const at = place(k);
    for (let n = 0; n < 3; n++)
      move[3 * column + n] = mitred ? (u[n] + v[n]) / lean : (at[n] - center[n]) / (least || 1);
    column++;
  };
  // the columns of one place stand together; what follows the last one is the first again
  for (let k = 0; k < count; k++) while (column <= rim[k]) put(k);
  while (column < section.x.length) put(0);
  return { move, least, most };
}

const dotOf = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Of the room that an outline has to shrink, so much is used: no side vanishes. */
const MOST_SHRINK = 0.8;
/** Sharper corners are cut short as if they were no sharper than this. */
const LEAST_LEAN = 0.25;

/** A cone over the ring, as high as it reaches: normal ∝ n + ((p·n)/h) T (differentiate and take the cross product). */
function writePoint(writer: CapWriter, ringAt: number, ring: EndRing, out: 1 | -1): void {
  const { mesh, section } = writer;
  const { position, normal, uv, index } = mesh;
  const columns = section.x.length;
  const { center, axis } = ring;
  const sides = sideNormals(writer, ringAt, axis);
  const reach = reachOf(writer, ringAt, center);
  const base = writer.vertex;
  const tip = base + columns;
  for (let k = 0; k < columns; k++) {
    const [from, to] = [3 * (ringAt + k), 3 * (base + k)];
    let along = 0;
    for (let n = 0; n < 3; n++) along += (position[from + n] - center[n]) * sides[3 * k + n];
    const lean = reach > 0 ? (out * along) / reach : out;
    const size = Math.hypot(1, lean);
    for (let n = 0; n < 3; n++) {
      position[to + n] = position[from + n];
      normal[to + n] = (sides[3 * k + n] + lean * axis[n]) / size;
    }
    uv[2 * (base + k)] = section.u[k];
    uv[2 * (base + k) + 1] = ring.v;
  }
  section.face.forEach((a, f) => {
    const t = 3 * (tip + f);
    let size = 0;
    for (let n = 0; n < 3; n++) {
      position[t + n] = center[n] + out * reach * axis[n];
      // of the side that ends here
      normal[t + n] = normal[3 * (base + a) + n] + normal[3 * (base + a + 1) + n];
      size += normal[t + n] ** 2;
    }
    for (let n = 0; n < 3; n++) normal[t + n] /= Math.sqrt(size) || 1;
    uv[2 * (tip + f)] = (section.u[a] + section.u[a + 1]) / 2;
    uv[2 * (tip + f) + 1] = ring.v + out * reach * Math.SQRT2;
    index.set(out > 0 ? [base + a, base + a + 1, tip + f] : [base + a, tip + f, base + a + 1], writer.triangleAt);
    writer.triangleAt += 3;
  });
  writer.vertex = tip + section.face.length;
}

/** How far the places of a ring lie from its middle at most. */
function reachOf({ mesh: { position }, section }: CapWriter, ringAt: number, center: EndRing['center']): number {
  let reach = 0;
  for (let i = 3 * ringAt; i < 3 * (ringAt + section.x.length); i += 3)
    reach = Math.max(
      reach,
      Math.hypot(position[i] - center[0], position[i + 1] - center[1], position[i + 2] - center[2]),
    );
  return reach;
}

/**
 * A dome D(φ, θ) = cos φ·p(θ) + sin φ·h·T over the ring p, h its reach: normal ∝ h·cos φ·n + sin φ·(p·n)·T
 * (differentiate and take the cross product). A half sphere over a circle.
 */
function writeDome(writer: CapWriter, ringAt: number, ring: EndRing, out: 1 | -1): void {
  const { mesh, section } = writer;
  const { position, normal, uv, index } = mesh;
  const columns = section.x.length;
  const rings = domeRings(section);
  const { center, axis } = ring;
  const reach = reachOf(writer, ringAt, center);
  const base = writer.vertex;
  for (let r = 0; r < rings; r++) {
    const angle = ((Math.PI / 2) * r) / rings;
    const cos = Math.cos(angle);
    const sin = Math.sin(angle) * out;
    for (let k = 0; k < columns; k++) {
      const from = 3 * (ringAt + k);
      const to = 3 * (base + r * columns + k);
      let along = 0;
      let flat = 0;
      for (let n = 0; n < 3; n++) {
        along += (position[from + n] - center[n]) * normal[from + n];
        flat += normal[from + n] * axis[n];
      }
      let size = 0;
      for (let n = 0; n < 3; n++) {
        // the first ring must stand on the body's, bit for bit
        position[to + n] =
          r === 0 ? position[from + n] : center[n] + cos * (position[from + n] - center[n]) + sin * reach * axis[n];
        const level = normal[from + n] - flat * axis[n];
        // of a ring that has shrunk to a place the dome has too: a half sphere's normals
        normal[to + n] = reach > 0 ? reach * cos * level + sin * along * axis[n] : cos * level + sin * axis[n];
        size += normal[to + n] ** 2;
      }
      for (let n = 0; n < 3; n++) normal[to + n] /= Math.sqrt(size) || 1;
      uv[2 * (base + r * columns + k)] = section.u[k];
      uv[2 * (base + r * columns + k) + 1] = ring.v + out * reach * angle;
    }
  }
  const tip = base + rings * columns;
  for (let f = 0; f < section.face.length; f++) {
    const a = section.face[f];
    for (let r = 0; r < rings - 1; r++) putQuad(writer, base + r * columns + a, columns, out);
    const t = tip + f;
    for (let n = 0; n < 3; n++) {
      position[3 * t + n] = center[n] + out * reach * axis[n];
      normal[3 * t + n] = out * axis[n];
    }
    uv[2 * t] = (section.u[a] + section.u[a + 1]) / 2;
    uv[2 * t + 1] = ring.v + (out * reach * Math.PI) / 2;
    const last = base + (rings - 1) * columns + a;
    index.set(out > 0 ? [last, last + 1, t] : [last, t, last + 1], writer.triangleAt);
    writer.triangleAt += 3;
  }
  writer.vertex = tip + section.face.length;
}
