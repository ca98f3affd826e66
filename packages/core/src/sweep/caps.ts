import type { Section } from '../section/section.js';
import { type CapWriter, type EndRing, putQuad, reachOf } from './cap-writer.js';
import { writePoint } from './pointed-cap.js';
import { type CapStep, writeSteps } from './stepped-caps.js';

/** How a swept body ends. */
export type EndKind = 'flat' | 'round' | 'pointed' | 'chamfered' | 'plate' | 'open';

const domeRings = (section: Section): number => Math.max(2, Math.round(section.rim.length / 4));

/**
 * How a section ends where it is asked to end so: what grows or shrinks about its middle fits on none with holes or an
 * inner corner, a sheet has no ends.
 */
export const endOf = (section: Section, kind: EndKind): EndKind =>
  section.open ? 'open' : !section.domed && kind !== 'open' ? 'flat' : kind;

/** Steps of an end, each from where the last one stood: outwards from the rim, and on along the line, in reaches. */
const STEPS: Partial<Record<EndKind, readonly CapStep[]>> = {
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
