import type { Mesh } from '../mesh/mesh.js';
import type { Section } from '../section/section.js';

/** How a swept body ends. */
export type EndKind = 'flat' | 'round' | 'open';

interface CapWriter {
  mesh: Mesh;
  section: Section;
  /** Next free vertex and places in the index; quads stand before triangles. */
  vertex: number;
  quadAt: number;
  triangleAt: number;
}

const domeRings = (section: Section): number => Math.max(2, Math.round(section.rim.length / 4));

export function capSize(section: Section, kind: EndKind): { vertices: number; triangles: number } {
  if (kind === 'open') return { vertices: 0, triangles: 0 };
  const faces = section.face.length;
  if (kind === 'flat') return { vertices: section.rim.length + 1, triangles: section.rim.length };
  return { vertices: domeRings(section) * section.x.length + faces, triangles: faces };
}

export const capQuads = (section: Section, kind: EndKind): number =>
  kind === 'round' ? (domeRings(section) - 1) * section.face.length : 0;

/**
 * Closes one end of a body. The ring it sits on is read back from the mesh, so the rim is the same to the bit and the
 * result watertight.
 * @param ringAt first vertex of the end's ring
 * @param out −1 at the start of the curve, 1 at its end
 * @param travel unit direction of the curve there: of a ring that has shrunk to a place, the only direction there is
 */
export function writeCap(
  writer: CapWriter,
  kind: EndKind,
  ringAt: number,
  out: 1 | -1,
  travel: ArrayLike<number>,
): void {
  if (kind === 'open') return;
  const ring = readRing(writer, ringAt, travel);
  if (kind === 'flat') writeFlat(writer, ringAt, ring, out);
  else writeDome(writer, ringAt, ring, out);
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
  const [i, j, k] = [0, Math.floor(rim.length / 3), Math.floor((2 * rim.length) / 3)].map((n) => rim[n]);
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

function writeFlat(writer: CapWriter, ringAt: number, ring: EndRing, out: 1 | -1): void {
  const { mesh, section } = writer;
  const { position, uv, index } = mesh;
  const rim = section.rim;
  const middle = writer.vertex + rim.length;
  for (let k = 0; k <= rim.length; k++) {
    const v = writer.vertex + k;
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
  for (let k = 0; k < rim.length; k++) {
    const a = writer.vertex + k;
    const b = writer.vertex + ((k + 1) % rim.length);
    index[writer.triangleAt] = middle;
    index[writer.triangleAt + 1] = out > 0 ? a : b;
    index[writer.triangleAt + 2] = out > 0 ? b : a;
    writer.triangleAt += 3;
  }
  writer.vertex = middle + 1;
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
  let reach = 0;
  for (let k = 0; k < columns; k++) {
    const i = 3 * (ringAt + k);
    reach = Math.max(
      reach,
      Math.hypot(position[i] - center[0], position[i + 1] - center[1], position[i + 2] - center[2]),
    );
  }
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
    for (let r = 0; r < rings - 1; r++) {
      const i = base + r * columns + a;
      const j = i + columns;
      const quad = out > 0 ? [i, i + 1, j + 1, i, j + 1, j] : [i, j, j + 1, i, j + 1, i + 1];
      index.set(quad, writer.quadAt);
      writer.quadAt += 6;
    }
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
