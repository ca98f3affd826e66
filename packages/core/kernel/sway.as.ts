// Lines by the hundred thousand, measured and swayed in AssemblyScript. `npm run kernel` compiles this file into
// packages/core/src/shape/sway/binary.ts; all addresses are bytes in the module's one memory, laid out by its caller.
// Positions, tangents and `far` are f64, all else 32 bits wide. The formulas stand at `tangentsOf`, `measureEdges`,
// `rotationMinimizingFrames` and `lineNoise`, which a test holds this against.

/** cos 20°: a sharper bend at one point is a corner. */
const MITRE: f64 = 0.9396926207859084;

/**
 * Writes tangents, places along and lengths of open lines without marked corners.
 * @returns 1 where a line has one point only, or two that coincide: nothing here is made for those
 */
export function measure(lines: i32, start: usize, position: usize, tangent: usize, along: usize, length: usize): i32 {
  for (let c = 0; c < lines; c++, start += 4, length += 4) {
    const first = load<u32>(start);
    const count = load<u32>(start, 4) - first;
    if (count < 2) return 1;
    const last = count - 1;
    if (insides(position, tangent, last) !== 0) return 1;
    end(position, position + 24, tangent, tangent + 24, last > 1, 1);
    const at = 24 * <usize>last;
    end(position + at, position + at - 24, tangent + at, tangent + at - 24, last > 1, -1);
    store<f32>(length, <f32>edges(position, tangent, along, last));
    position += at + 24;
    tangent += at + 24;
    along += 4 * <usize>count;
  }
  return 0;
}

/** Tangents of all points of a line but its first and last; 1 where two neighbours coincide. */
function insides(position: usize, tangent: usize, last: u32): i32 {
  let x = load<f64>(position, 24);
  let y = load<f64>(position, 32);
  let z = load<f64>(position, 40);
  let ux = x - load<f64>(position);
  let uy = y - load<f64>(position, 8);
  let uz = z - load<f64>(position, 16);
  let uu = ux * ux + uy * uy + uz * uz;
  if (uu === 0) return 1;
  for (let p: u32 = 1; p < last; p++) {
    position += 24;
    tangent += 24;
    const nx = load<f64>(position, 24);
    const ny = load<f64>(position, 32);
    const nz = load<f64>(position, 40);
    const vx = nx - x;
    const vy = ny - y;
    const vz = nz - z;
    const vv = vx * vx + vy * vy + vz * vz;
    if (vv === 0) return 1;
    const dot = ux * vx + uy * vy + uz * vz;
    const smooth = dot > 0 && dot * dot > MITRE * MITRE * uu * vv;
    const wu = smooth ? vv : Math.sqrt(vv);
    const wv = smooth ? uu : Math.sqrt(uu);
    let tx = ux * wu + vx * wv;
    let ty = uy * wu + vy * wv;
    let tz = uz * wu + vz * wv;
    let size = tx * tx + ty * ty + tz * tz;
    if (size === 0) {
      tx = ux;
      ty = uy;
      tz = uz;
      size = uu;
    }
    const scale = 1 / Math.sqrt(size);
    store<f64>(tangent, tx * scale);
    store<f64>(tangent, ty * scale, 8);
    store<f64>(tangent, tz * scale, 16);
    x = nx;
    y = ny;
    z = nz;
    ux = vx;
    uy = vy;
    uz = vz;
    uu = vv;
  }
  return 0;
}

/** Tangent of an end whose only neighbour is `q`; `side` is 1 at the start and −1 at the end. */
function end(p: usize, q: usize, to: usize, near: usize, curved: bool, side: f64): void {
  let x = load<f64>(q) - load<f64>(p);
  let y = load<f64>(q, 8) - load<f64>(p, 8);
  let z = load<f64>(q, 16) - load<f64>(p, 16);
  const scale = 1 / Math.sqrt(x * x + y * y + z * z);
  x *= scale;
  y *= scale;
  z *= scale;
  if (curved) {
    const tx = side * load<f64>(near);
    const ty = side * load<f64>(near, 8);
    const tz = side * load<f64>(near, 16);
    const along = 2 * (x * tx + y * ty + z * tz);
    if (along > 2 * MITRE) {
      x = along * x - tx;
      y = along * y - ty;
      z = along * z - tz;
    }
  }
  store<f64>(to, side * x);
  store<f64>(to, side * y, 8);
  store<f64>(to, side * z, 16);
}

/** Writes how far along each point of a line is and returns the line's length. */
function edges(position: usize, tangent: usize, along: usize, last: u32): f64 {
  let sum: f64 = 0;
  let x = load<f64>(position);
  let y = load<f64>(position, 8);
  let z = load<f64>(position, 16);
  let tx = load<f64>(tangent);
  let ty = load<f64>(tangent, 8);
  let tz = load<f64>(tangent, 16);
  for (let p: u32 = 0; p < last; p++, along += 4) {
    position += 24;
    tangent += 24;
    store<f32>(along, <f32>sum);
    const vx = load<f64>(position) - x;
    const vy = load<f64>(position, 8) - y;
    const vz = load<f64>(position, 16) - z;
    const chord = Math.sqrt(vx * vx + vy * vy + vz * vz);
    const inverse = 1 / chord;
    const atP = 1 - (tx * vx + ty * vy + tz * vz) * inverse;
    tx = load<f64>(tangent);
    ty = load<f64>(tangent, 8);
    tz = load<f64>(tangent, 16);
    const atQ = 1 - (tx * vx + ty * vy + tz * vz) * inverse;
    const half = 0.5 * (angleOf(atP) + angleOf(atQ));
    sum += half < 0.25 * Math.PI ? chord * arcOverChord(half * half) : chord;
    x += vx;
    y += vy;
    z += vz;
  }
  store<f32>(along, <f32>sum);
  return sum;
}

/** acos(1 − e) up to 90°; from there on no more than 90°, which nobody tells apart. */
// @ts-expect-error: decorator
@inline
function angleOf(e: f64): f64 {
  if (e >= 1) return 0.5 * Math.PI;
  if (!(e > 0)) return 0;
  const near = e <= 0.5;
  const z = near ? 0.5 * e : (1 - e) * (1 - e);
  const x = Math.sqrt(z);
  const asin = x + x * asinTail(z);
  return near ? 2 * asin : 0.5 * Math.PI - asin;
}

/** (asin x − x)/x in z = x², for x up to ½ (rational approximation of fdlibm, e_asin.c, Sun Microsystems 1993). */
// @ts-expect-error: decorator
@inline
function asinTail(z: f64): f64 {
  const top = 0.20121253213486293 + z * (-0.04005553450067941 + z * (0.0007915349942898145 + z * 3.479331075960212e-5));
  const low = 2.0209457602335057 + z * (-0.6882839716054533 + z * 0.07703815055590194);
  return (z * (0.16666666666666666 + z * (-0.3255658186224009 + z * top))) / (1 + z * (-2.403394911734414 + z * low));
}

/** θ/sin θ by its series in s = θ², exact to 1e-8 up to 45° (Bernoulli numbers; Abramowitz and Stegun 4.3.68). */
// @ts-expect-error: decorator
@inline
function arcOverChord(s: f64): f64 {
  const tail = 127.0 / 604800 + s * (73.0 / 3421440 + s * (1414477.0 / 653837184000 + s * (8191.0 / 37362124800)));
  return 1 + s * (1.0 / 6 + s * (7.0 / 360 + s * (31.0 / 15120 + s * tail)));
}

/**
 * Moves the points of lines that were measured off their course: by up to `far` of each point sideways, and `up` times
 * as much along the normal.
 * @param step length of one wave
 */
export function sway(
  lines: i32,
  start: usize,
  id: usize,
  position: usize,
  tangent: usize,
  along: usize,
  far: usize,
  step: f64,
  up: f64,
  seed: u32,
  sideways: u32,
  upward: u32,
): void {
  const mixed = mix(seed);
  for (let c = 0; c < lines; c++, start += 4, id += 4) {
    const count = load<u32>(start, 4) - load<u32>(start);
    const own = load<u32>(id);
    let x = load<f64>(position);
    let y = load<f64>(position, 8);
    let z = load<f64>(position, 16);
    let tx = load<f64>(tangent);
    let ty = load<f64>(tangent, 8);
    let tz = load<f64>(tangent, 16);
    // up, made perpendicular; where the line runs up itself, another axis
    const square = tx * tx + ty * ty + tz * tz;
    const byUp = 1 - 2 * ty * ty + ty * ty * square > 0.0004;
    const sidewise = Math.abs(tx) < 0.8;
    const dx: f64 = !byUp && sidewise ? 1 : 0;
    const dy: f64 = byUp ? 1 : 0;
    const dz: f64 = byUp || sidewise ? 0 : 1;
    const lean = dx * tx + dy * ty + dz * tz;
    let rx = dx - lean * tx;
    let ry = dy - lean * ty;
    let rz = dz - lean * tz;
    const size = 1 / Math.sqrt(rx * rx + ry * ry + rz * rz);
    rx *= size;
    ry *= size;
    rz *= size;
    let cell: f64 = NaN;
    let sideA: f64 = 0;
    let sideB: f64 = 0;
    let upA: f64 = 0;
    let upB: f64 = 0;
    for (let p: u32 = 1; ; p++) {
      const place = <f64>load<f32>(along) / step;
      const here = Math.floor(place);
      if (here !== cell) {
        const next = here === cell + 1;
        const whole = <i32>here;
        sideA = next ? sideB : valueAt(whole, own, mixed, sideways);
        upA = next ? upB : valueAt(whole, own, mixed, upward);
        sideB = valueAt(whole + 1, own, mixed, sideways);
        upB = valueAt(whole + 1, own, mixed, upward);
        cell = here;
      }
      const t = place - here;
      const eased = t * t * t * (t * (6 * t - 15) + 10);
      const most = load<f64>(far);
      const b = most * (sideA + (sideB - sideA) * eased);
      const n = up * most * (upA + (upB - upA) * eased);
      store<f64>(position, x + n * rx + b * (ty * rz - tz * ry));
      store<f64>(position, y + n * ry + b * (tz * rx - tx * rz), 8);
      store<f64>(position, z + n * rz + b * (tx * ry - ty * rx), 16);
      position += 24;
      tangent += 24;
      along += 4;
      far += 8;
      if (p === count) break;
      // the normal is carried to the next point through two reflections
      const vx = load<f64>(position) - x;
      const vy = load<f64>(position, 8) - y;
      const vz = load<f64>(position, 16) - z;
      x += vx;
      y += vy;
      z += vz;
      const twice = 2 / (vx * vx + vy * vy + vz * vz);
      const kr = twice * (vx * rx + vy * ry + vz * rz);
      const kt = twice * (vx * tx + vy * ty + vz * tz);
      rx -= kr * vx;
      ry -= kr * vy;
      rz -= kr * vz;
      const nx = load<f64>(tangent);
      const ny = load<f64>(tangent, 8);
      const nz = load<f64>(tangent, 16);
      const wx = nx - (tx - kt * vx);
      const wy = ny - (ty - kt * vy);
      const wz = nz - (tz - kt * vz);
      const ww = wx * wx + wy * wy + wz * wz;
      if (ww > 1e-24) {
        const k = (2 / ww) * (wx * rx + wy * ry + wz * rz);
        rx -= k * wx;
        ry -= k * wy;
        rz -= k * wz;
      }
      const drift = rx * nx + ry * ny + rz * nz;
      rx -= drift * nx;
      ry -= drift * ny;
      rz -= drift * nz;
      const scale = 1.5 - 0.5 * (rx * rx + ry * ry + rz * rz);
      rx *= scale;
      ry *= scale;
      rz *= scale;
      tx = nx;
      ty = ny;
      tz = nz;
    }
  }
}

/** The random value −1…1 at a whole number. */
// @ts-expect-error: decorator
@inline
function valueAt(whole: i32, id: u32, mixed: u32, name: u32): f64 {
  return <f64>mix(mix(mixed ^ id ^ (<u32>whole * 0x9e3779b1)) + name) * (2.0 / 4294967296) - 1;
}

/** The finalizer of `randomAt`. */
// @ts-expect-error: decorator
@inline
function mix(value: u32): u32 {
  let h = value;
  h = (h ^ (h >>> 16)) * 0x85ebca6b;
  h = (h ^ (h >>> 13)) * 0xc2b2ae35;
  return h ^ (h >>> 16);
}
