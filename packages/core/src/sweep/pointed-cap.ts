import { type CapWriter, type EndRing, reachOf, sideNormals } from './cap-writer.js';

/** A cone over the ring, as high as it reaches: normal ∝ n + ((p·n)/h) T (differentiate and take the cross product). */
export function writePoint(writer: CapWriter, ringAt: number, ring: EndRing, out: 1 | -1): void {
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
