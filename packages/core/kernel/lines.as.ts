// Lines by the hundred thousand, measured, framed and swayed in AssemblyScript, four lines at a time. `npm run kernel`
// compiles this file into packages/core/src/curve/kernel/binary.ts; all addresses are bytes in the module's one memory,
// laid out by its caller. Positions are f64 and only their differences are taken at single precision. The formulas stand at
// `tangentsOf`, `measureEdges`, `rotationMinimizingFrames` and `LineNoise`, which a test holds this against.

/** cos 20°: a sharper bend at one point is a corner. */
const MITRE: f32 = 0.93969262;
/** Of longer lines the sum of the steps is no longer good enough at single precision. */
const MAX_POINTS: u32 = 2000;
/** What is further apart than this, metres, is endless. */
const MAX_STEP: f32 = 1e18;
/** Bytes of one step of four lines: its direction, xyz, and how long it is. Tangents and normals take three quarters of that. */
const STEP: usize = 64;
const TANGENT: usize = 48;

/** Addresses of four lines of as many points each; where there are no four, the first stands in for the others. */
let line0: usize = 0;
let line1: usize = 0;
let line2: usize = 0;
let line3: usize = 0;
/** Numbers of those lines, how many points each has, and how many of them are different ones. */
let taken: u32 = 0;
let points: u32 = 0;

/** Takes up to four lines from the `c`-th on. */
function take(c: i32, lines: i32, start: usize): void {
  const at = start + 4 * <usize>c;
  const first = load<u32>(at);
  points = load<u32>(at, 4) - first;
  taken = 1;
  while (taken < 4 && c + <i32>taken < lines) {
    const next = at + 4 * <usize>taken;
    if (load<u32>(next, 4) - load<u32>(next) !== points) break;
    taken++;
  }
  line0 = first;
  line1 = first + (taken > 1 ? points : 0);
  line2 = first + (taken > 2 ? 2 * points : 0);
  line3 = first + (taken > 3 ? 3 * points : 0);
}

/**
 * Writes places along and lengths of open lines without marked corners; `steps` and `tangents` are filled for `sway`.
 * @returns 1 where a line has one point only, two that coincide, or very many: nothing here is made for those
 */
export function measure(
  lines: i32,
  start: usize,
  position: usize,
  steps: usize,
  tangents: usize,
  along: usize,
  length: usize,
): i32 {
  for (let c = 0; c < lines; c += taken) {
    take(c, lines, start);
    if (points < 2 || points > MAX_POINTS) return 1;
    if (!writeSteps(position, steps)) return 1;
    writeTangents(steps, tangents);
    const sum = writeAlong(steps, tangents, along);
    const to = length + 4 * <usize>c;
    store<f32>(to, f32x4.extract_lane(sum, 0));
    if (taken > 1) store<f32>(to, f32x4.extract_lane(sum, 1), 4);
    if (taken > 2) store<f32>(to, f32x4.extract_lane(sum, 2), 8);
    if (taken > 3) store<f32>(to, f32x4.extract_lane(sum, 3), 12);
    steps += STEP * <usize>points;
    tangents += TANGENT * <usize>points;
  }
  return 0;
}

/** Direction and length of each step; false where two points coincide, or one is no number or endless. */
function writeSteps(position: usize, steps: usize): bool {
  let a = position + 24 * line0;
  let b = position + 24 * line1;
  let c = position + 24 * line2;
  let d = position + 24 * line3;
  for (let p: u32 = 1; p < points; p++, a += 24, b += 24, c += 24, d += 24, steps += STEP) {
    const x = four(difference(a, 0), difference(b, 0), difference(c, 0), difference(d, 0));
    const y = four(difference(a, 8), difference(b, 8), difference(c, 8), difference(d, 8));
    const z = four(difference(a, 16), difference(b, 16), difference(c, 16), difference(d, 16));
    const size = f32x4.sqrt(dot(x, y, z, x, y, z));
    if (!v128.all_true<i32>(v128.and(f32x4.gt(size, f32x4.splat(0)), f32x4.lt(size, f32x4.splat(MAX_STEP)))))
      return false;
    const scale = f32x4.div(f32x4.splat(1), size);
    v128.store(steps, f32x4.mul(x, scale));
    v128.store(steps, f32x4.mul(y, scale), 16);
    v128.store(steps, f32x4.mul(z, scale), 32);
    v128.store(steps, size, 48);
  }
  return true;
}

/** → whether no line has a sharp bend */
function writeTangents(steps: usize, tangents: usize): bool {
  let all = f32x4.eq(f32x4.splat(0), f32x4.splat(0));
  let ux = v128.load(steps);
  let uy = v128.load(steps, 16);
  let uz = v128.load(steps, 32);
  let u = v128.load(steps, 48);
  let at = tangents + TANGENT;
  const first = steps;
  for (let p: u32 = 2; p < points; p++, at += TANGENT) {
    steps += STEP;
    const vx = v128.load(steps);
    const vy = v128.load(steps, 16);
    const vz = v128.load(steps, 32);
    const v = v128.load(steps, 48);
    // a parabola through three points where they lie smoothly, the bisector at a sharp bend, the way there on the way back
    const smooth = f32x4.gt(dot(ux, uy, uz, vx, vy, vz), f32x4.splat(MITRE));
    all = v128.and(all, smooth);
    const wu = v128.bitselect(v, f32x4.splat(1), smooth);
    const wv = v128.bitselect(u, f32x4.splat(1), smooth);
    const x = f32x4.add(f32x4.mul(ux, wu), f32x4.mul(vx, wv));
    const y = f32x4.add(f32x4.mul(uy, wu), f32x4.mul(vy, wv));
    const z = f32x4.add(f32x4.mul(uz, wu), f32x4.mul(vz, wv));
    const size = dot(x, y, z, x, y, z);
    const back = f32x4.eq(size, f32x4.splat(0));
    const scale = f32x4.div(f32x4.splat(1), f32x4.sqrt(size));
    v128.store(at, v128.bitselect(ux, f32x4.mul(x, scale), back));
    v128.store(at, v128.bitselect(uy, f32x4.mul(y, scale), back), 16);
    v128.store(at, v128.bitselect(uz, f32x4.mul(z, scale), back), 32);
    ux = vx;
    uy = vy;
    uz = vz;
    u = v;
  }
  writeEnd(first, tangents, tangents + TANGENT);
  writeEnd(steps, at, at - TANGENT);
  return v128.bitmask<i32>(all) === 15;
}

/** The tangent of an end: its neighbour's mirrored in the step between them, or the step itself at a sharp bend. */
function writeEnd(step: usize, to: usize, near: usize): void {
  const x = v128.load(step);
  const y = v128.load(step, 16);
  const z = v128.load(step, 32);
  let tx = x;
  let ty = y;
  let tz = z;
  if (points > 2) {
    tx = v128.load(near);
    ty = v128.load(near, 16);
    tz = v128.load(near, 32);
  }
  const twice = f32x4.mul(f32x4.splat(2), dot(x, y, z, tx, ty, tz));
  const curved = f32x4.gt(twice, f32x4.splat(2 * MITRE));
  v128.store(to, v128.bitselect(f32x4.sub(f32x4.mul(twice, x), tx), x, curved));
  v128.store(to, v128.bitselect(f32x4.sub(f32x4.mul(twice, y), ty), y, curved), 16);
  v128.store(to, v128.bitselect(f32x4.sub(f32x4.mul(twice, z), tz), z, curved), 32);
}

/** Writes how far along each point is and returns the whole lengths. */
function writeAlong(steps: usize, tangents: usize, along: usize): v128 {
  let sum = f32x4.splat(0);
  let tx = v128.load(tangents);
  let ty = v128.load(tangents, 16);
  let tz = v128.load(tangents, 32);
  storeAlong(along, 0, sum);
  for (let p: u32 = 1; p < points; p++, steps += STEP) {
    tangents += TANGENT;
    const x = v128.load(steps);
    const y = v128.load(steps, 16);
    const z = v128.load(steps, 32);
    const chord = v128.load(steps, 48);
    const before = angleBetween(x, y, z, tx, ty, tz);
    tx = v128.load(tangents);
    ty = v128.load(tangents, 16);
    tz = v128.load(tangents, 32);
    const half = f32x4.mul(f32x4.splat(0.5), f32x4.add(before, angleBetween(x, y, z, tx, ty, tz)));
    // a bend above 90° is a corner: the chord itself
    const round = f32x4.lt(half, f32x4.splat(0.25 * <f32>Math.PI));
    const more = v128.and(round, arcOverChord(f32x4.mul(half, half)));
    sum = f32x4.add(sum, f32x4.add(chord, f32x4.mul(chord, more)));
    storeAlong(along, p, sum);
  }
  return sum;
}

/**
 * Angle between two directions, up to 90°; larger ones come as 90°. By the distance between the two, which unlike their
 * cosine loses no digits at small angles (asinf of the Cephes library, Moshier).
 */
// @ts-expect-error: decorator
function angleBetween(ax: v128, ay: v128, az: v128, bx: v128, by: v128, bz: v128): v128 {
  const half = f32x4.splat(0.5);
  const x1 = f32x4.sub(ax, bx);
  const y1 = f32x4.sub(ay, by);
  const z1 = f32x4.sub(az, bz);
  const e = f32x4.mul(half, dot(x1, y1, z1, x1, y1, z1));
  const c = f32x4.max(f32x4.sub(f32x4.splat(1), e), f32x4.splat(0));
  const near = f32x4.le(e, half);
  const z = v128.bitselect(f32x4.mul(half, e), f32x4.mul(c, c), near);
  const x = f32x4.sqrt(z);
  let tail = f32x4.add(f32x4.mul(z, f32x4.splat(4.2163199e-2)), f32x4.splat(2.4181311e-2));
  tail = f32x4.add(f32x4.mul(z, tail), f32x4.splat(4.5470026e-2));
  tail = f32x4.add(f32x4.mul(z, tail), f32x4.splat(7.4953003e-2));
  tail = f32x4.add(f32x4.mul(z, tail), f32x4.splat(1.6666752e-1));
  const asin = f32x4.add(x, f32x4.mul(x, f32x4.mul(z, tail)));
  return v128.bitselect(f32x4.add(asin, asin), f32x4.sub(f32x4.splat(0.5 * <f32>Math.PI), asin), near);
}

/** θ/sin θ − 1 by its series in s = θ², up to 45° (Abramowitz and Stegun 4.3.68). */
// @ts-expect-error: decorator
function arcOverChord(s: v128): v128 {
  let tail = f32x4.add(f32x4.mul(s, f32x4.splat(2.1335e-5)), f32x4.splat(127.0 / 604800));
  tail = f32x4.add(f32x4.mul(s, tail), f32x4.splat(31.0 / 15120));
  tail = f32x4.add(f32x4.mul(s, tail), f32x4.splat(7.0 / 360));
  tail = f32x4.add(f32x4.mul(s, tail), f32x4.splat(1.0 / 6));
  return f32x4.mul(s, tail);
}

/**
 * Writes tangents and rotation-minimizing normals of open lines, flat xyz at double precision; `steps`, `tangents` and
 * `normals` are its own room, the last for one group of four lines.
 * @returns 1 where a line has a sharp bend, one point only, two that coincide, or very many: nothing here is made for those
 */
export function frames(
  lines: i32,
  start: usize,
  position: usize,
  steps: usize,
  tangents: usize,
  normals: usize,
  tangent: usize,
  normal: usize,
): i32 {
  for (let c = 0; c < lines; c += taken) {
    take(c, lines, start);
    if (points < 2 || points > MAX_POINTS) return 1;
    if (!writeSteps(position, steps)) return 1;
    if (!writeTangents(steps, tangents)) return 1;
    writeNormals(steps, tangents, normals);
    writeOut(tangents, tangent);
    writeOut(normals, normal);
  }
  return 0;
}

/** Bytes from one column of a section to the next: x, y, normal x, normal y, u, and three unused. */
const COLUMN: usize = 32;

/**
 * Writes the rings of bodies of one thickness that never turn along open lines, one ring a point: place, normal, and
 * texture coordinate of each column. The formula stands at `sweep`. The rest as for `frames`.
 * @returns 1 as `frames` does
 */
export function rings(
  lines: i32,
  start: usize,
  position: usize,
  steps: usize,
  tangents: usize,
  normals: usize,
  along: usize,
  section: usize,
  columns: i32,
  radius: f32,
  p: usize,
  n: usize,
  uv: usize,
): i32 {
  for (let c = 0; c < lines; c += taken) {
    take(c, lines, start);
    if (points < 2 || points > MAX_POINTS) return 1;
    if (!writeSteps(position, steps)) return 1;
    if (!writeTangents(steps, tangents)) return 1;
    writeNormals(steps, tangents, normals);
    for (let k: i32 = 0; k < columns; k++, section += COLUMN)
      writeColumn(position, tangents, normals, along, section, columns, radius, p + 12 * k, n + 12 * k, uv + 8 * k);
    section -= COLUMN * <usize>columns;
  }
  return 0;
}

/** One column of the rings of four lines. */
function writeColumn(
  position: usize,
  tangents: usize,
  normals: usize,
  along: usize,
  section: usize,
  columns: i32,
  radius: f32,
  p: usize,
  n: usize,
  uv: usize,
): void {
  const x = v128.load32_splat(section);
  const y = v128.load32_splat(section, 4);
  const nx = v128.load32_splat(section, 8);
  const ny = v128.load32_splat(section, 12);
  const u = load<f32>(section, 16);
  const size = f32x4.splat(radius);
  const rx = f32x4.mul(size, x);
  const ry = f32x4.mul(size, y);
  const ring = 12 * <usize>columns;
  const flat = 8 * <usize>columns;
  for (let q: u32 = 0; q < points; q++, tangents += TANGENT, normals += TANGENT) {
    const tx = v128.load(tangents);
    const ty = v128.load(tangents, 16);
    const tz = v128.load(tangents, 32);
    const ax = v128.load(normals);
    const ay = v128.load(normals, 16);
    const az = v128.load(normals, 32);
    const bx = f32x4.sub(f32x4.mul(ty, az), f32x4.mul(tz, ay));
    const by = f32x4.sub(f32x4.mul(tz, ax), f32x4.mul(tx, az));
    const bz = f32x4.sub(f32x4.mul(tx, ay), f32x4.mul(ty, ax));
    const px = f32x4.add(f32x4.mul(ax, rx), f32x4.mul(bx, ry));
    const py = f32x4.add(f32x4.mul(ay, rx), f32x4.mul(by, ry));
    const pz = f32x4.add(f32x4.mul(az, rx), f32x4.mul(bz, ry));
    const mx = f32x4.add(f32x4.mul(ax, nx), f32x4.mul(bx, ny));
    const my = f32x4.add(f32x4.mul(ay, nx), f32x4.mul(by, ny));
    const mz = f32x4.add(f32x4.mul(az, nx), f32x4.mul(bz, ny));
    let at = line0 + q;
    fromPoint(
      p + ring * at,
      position + 24 * at,
      f32x4.extract_lane(px, 0),
      f32x4.extract_lane(py, 0),
      f32x4.extract_lane(pz, 0),
    );
    three(n + ring * at, f32x4.extract_lane(mx, 0), f32x4.extract_lane(my, 0), f32x4.extract_lane(mz, 0));
    two(uv + flat * at, u, load<f32>(along + 4 * at));
    if (taken < 2) continue;
    at = line1 + q;
    fromPoint(
      p + ring * at,
      position + 24 * at,
      f32x4.extract_lane(px, 1),
      f32x4.extract_lane(py, 1),
      f32x4.extract_lane(pz, 1),
    );
    three(n + ring * at, f32x4.extract_lane(mx, 1), f32x4.extract_lane(my, 1), f32x4.extract_lane(mz, 1));
    two(uv + flat * at, u, load<f32>(along + 4 * at));
    if (taken < 3) continue;
    at = line2 + q;
    fromPoint(
      p + ring * at,
      position + 24 * at,
      f32x4.extract_lane(px, 2),
      f32x4.extract_lane(py, 2),
      f32x4.extract_lane(pz, 2),
    );
    three(n + ring * at, f32x4.extract_lane(mx, 2), f32x4.extract_lane(my, 2), f32x4.extract_lane(mz, 2));
    two(uv + flat * at, u, load<f32>(along + 4 * at));
    if (taken < 4) continue;
    at = line3 + q;
    fromPoint(
      p + ring * at,
      position + 24 * at,
      f32x4.extract_lane(px, 3),
      f32x4.extract_lane(py, 3),
      f32x4.extract_lane(pz, 3),
    );
    three(n + ring * at, f32x4.extract_lane(mx, 3), f32x4.extract_lane(my, 3), f32x4.extract_lane(mz, 3));
    two(uv + flat * at, u, load<f32>(along + 4 * at));
  }
}

/** A place beside a point. */
// @ts-expect-error: decorator
function fromPoint(to: usize, point: usize, x: f32, y: f32, z: f32): void {
  three(to, <f32>load<f64>(point) + x, <f32>load<f64>(point, 8) + y, <f32>load<f64>(point, 16) + z);
}

// @ts-expect-error: decorator
function three(to: usize, x: f32, y: f32, z: f32): void {
  store<f32>(to, x);
  store<f32>(to, y, 4);
  store<f32>(to, z, 8);
}

// @ts-expect-error: decorator
function two(to: usize, u: f32, v: f32): void {
  store<f32>(to, u);
  store<f32>(to, v, 4);
}

/** Numbers of four lines side by side, xyz, to those of each line at double precision. */
function writeOut(from: usize, to: usize): void {
  for (let p: u32 = 0; p < points; p++, from += TANGENT, to += 24) {
    const x = v128.load(from);
    const y = v128.load(from, 16);
    const z = v128.load(from, 32);
    place(to + 24 * line3, f32x4.extract_lane(x, 3), f32x4.extract_lane(y, 3), f32x4.extract_lane(z, 3));
    place(to + 24 * line2, f32x4.extract_lane(x, 2), f32x4.extract_lane(y, 2), f32x4.extract_lane(z, 2));
    place(to + 24 * line1, f32x4.extract_lane(x, 1), f32x4.extract_lane(y, 1), f32x4.extract_lane(z, 1));
    place(to + 24 * line0, f32x4.extract_lane(x, 0), f32x4.extract_lane(y, 0), f32x4.extract_lane(z, 0));
  }
}

/** Normals of four lines: the first looks up as `startNormal` says, and is carried on through two reflections a step. */
function writeNormals(steps: usize, tangents: usize, normals: usize): void {
  const one = f32x4.splat(1);
  const two = f32x4.splat(2);
  let tx = v128.load(tangents);
  let ty = v128.load(tangents, 16);
  let tz = v128.load(tangents, 32);
  // up, and for what is plumb aside of it, made perpendicular; where a line runs along that itself, another axis
  const steep = f32x4.div(f32x4.sub(f32x4.abs(ty), f32x4.splat(0.9)), f32x4.splat(0.09));
  const share = f32x4.min(one, f32x4.max(f32x4.splat(0), steep));
  const aside = f32x4.mul(f32x4.mul(share, share), f32x4.sub(f32x4.splat(3), f32x4.mul(two, share)));
  const ax = f32x4.mul(aside, f32x4.splat(1.6));
  const az = f32x4.mul(aside, f32x4.splat(1.2));
  const size = dot(ax, one, az, ax, one, az);
  const common = dot(ax, one, az, tx, ty, tz);
  const square = f32x4.mul(f32x4.mul(common, common), f32x4.sub(dot(tx, ty, tz, tx, ty, tz), two));
  const byUp = f32x4.gt(f32x4.add(size, square), f32x4.mul(size, f32x4.splat(0.0004)));
  const sidewise = f32x4.lt(f32x4.abs(tx), f32x4.splat(0.8));
  const dx = v128.bitselect(ax, v128.and(one, sidewise), byUp);
  const dy = v128.and(one, byUp);
  const dz = v128.bitselect(az, v128.andnot(one, sidewise), byUp);
  const lean = dot(dx, dy, dz, tx, ty, tz);
  let rx = f32x4.sub(dx, f32x4.mul(lean, tx));
  let ry = f32x4.sub(dy, f32x4.mul(lean, ty));
  let rz = f32x4.sub(dz, f32x4.mul(lean, tz));
  const unit = f32x4.div(one, f32x4.sqrt(dot(rx, ry, rz, rx, ry, rz)));
  rx = f32x4.mul(rx, unit);
  ry = f32x4.mul(ry, unit);
  rz = f32x4.mul(rz, unit);
  for (let p: u32 = 0; ; p++, normals += TANGENT) {
    v128.store(normals, rx);
    v128.store(normals, ry, 16);
    v128.store(normals, rz, 32);
    if (p === points - 1) break;
    const ux = v128.load(steps);
    const uy = v128.load(steps, 16);
    const uz = v128.load(steps, 32);
    const kr = f32x4.mul(two, dot(ux, uy, uz, rx, ry, rz));
    const kt = f32x4.mul(two, dot(ux, uy, uz, tx, ty, tz));
    rx = f32x4.sub(rx, f32x4.mul(kr, ux));
    ry = f32x4.sub(ry, f32x4.mul(kr, uy));
    rz = f32x4.sub(rz, f32x4.mul(kr, uz));
    steps += STEP;
    tangents += TANGENT;
    const nx = v128.load(tangents);
    const ny = v128.load(tangents, 16);
    const nz = v128.load(tangents, 32);
    const wx = f32x4.sub(nx, f32x4.sub(tx, f32x4.mul(kt, ux)));
    const wy = f32x4.sub(ny, f32x4.sub(ty, f32x4.mul(kt, uy)));
    const wz = f32x4.sub(nz, f32x4.sub(tz, f32x4.mul(kt, uz)));
    const ww = dot(wx, wy, wz, wx, wy, wz);
    const turned = f32x4.gt(ww, f32x4.splat(1e-12));
    const k = v128.and(turned, f32x4.mul(f32x4.div(two, ww), dot(wx, wy, wz, rx, ry, rz)));
    rx = f32x4.sub(rx, f32x4.mul(k, wx));
    ry = f32x4.sub(ry, f32x4.mul(k, wy));
    rz = f32x4.sub(rz, f32x4.mul(k, wz));
    const drift = dot(rx, ry, rz, nx, ny, nz);
    rx = f32x4.sub(rx, f32x4.mul(drift, nx));
    ry = f32x4.sub(ry, f32x4.mul(drift, ny));
    rz = f32x4.sub(rz, f32x4.mul(drift, nz));
    const scale = f32x4.sub(f32x4.splat(1.5), f32x4.mul(f32x4.splat(0.5), dot(rx, ry, rz, rx, ry, rz)));
    rx = f32x4.mul(rx, scale);
    ry = f32x4.mul(ry, scale);
    rz = f32x4.mul(rz, scale);
    tx = nx;
    ty = ny;
    tz = nz;
  }
}

/**
 * Moves the points of lines that were measured off their course: by up to `far` of each point sideways, and `up` times
 * as much along the normal. `normals` is its own room, for one group of four lines.
 * @param step length of one wave
 */
export function sway(
  lines: i32,
  start: usize,
  id: usize,
  position: usize,
  steps: usize,
  tangents: usize,
  normals: usize,
  along: usize,
  far: usize,
  step: f32,
  up: f32,
  seed: u32,
  sideways: u32,
  upward: u32,
): void {
  const mixed = mixOne(seed);
  for (let c = 0; c < lines; c += taken) {
    take(c, lines, start);
    const last = taken - 1;
    const own = id + 4 * <usize>c;
    let ids = i32x4.splat(load<i32>(own));
    ids = i32x4.replace_lane(ids, 1, load<i32>(own + 4 * <usize>min(1, last)));
    ids = i32x4.replace_lane(ids, 2, load<i32>(own + 4 * <usize>min(2, last)));
    ids = i32x4.replace_lane(ids, 3, load<i32>(own + 4 * <usize>min(3, last)));
    writeNormals(steps, tangents, normals);
    swayFour(position, tangents, normals, along, far, step, up, v128.xor(ids, i32x4.splat(mixed)), sideways, upward);
    steps += STEP * <usize>points;
    tangents += TANGENT * <usize>points;
  }
}

function swayFour(
  position: usize,
  tangents: usize,
  normals: usize,
  along: usize,
  far: usize,
  step: f32,
  up: f32,
  ids: v128,
  sideways: u32,
  upward: u32,
): void {
  const scaleUp = f32x4.splat(up);
  const wave = f32x4.splat(step);
  for (let p: u32 = 0; p < points; p++, tangents += TANGENT, normals += TANGENT) {
    const tx = v128.load(tangents);
    const ty = v128.load(tangents, 16);
    const tz = v128.load(tangents, 32);
    const rx = v128.load(normals);
    const ry = v128.load(normals, 16);
    const rz = v128.load(normals, 32);
    const place = f32x4.div(loadFour(along, p), wave);
    const cell = f32x4.floor(place);
    const whole = i32x4.trunc_sat_f32x4_s(cell);
    const t = f32x4.sub(place, cell);
    const inner = f32x4.sub(f32x4.mul(f32x4.splat(6), t), f32x4.splat(15));
    const cube = f32x4.mul(t, f32x4.mul(t, t));
    const eased = f32x4.mul(cube, f32x4.add(f32x4.mul(t, inner), f32x4.splat(10)));
    const here = f32x4.mul(f32x4.splat(2), eased);
    const most = loadFour(far, p);
    const b = f32x4.mul(most, noise(ids, whole, sideways, here));
    const n = f32x4.mul(f32x4.mul(scaleUp, most), noise(ids, whole, upward, here));
    const x = f32x4.add(f32x4.mul(n, rx), f32x4.mul(b, f32x4.sub(f32x4.mul(ty, rz), f32x4.mul(tz, ry))));
    const y = f32x4.add(f32x4.mul(n, ry), f32x4.mul(b, f32x4.sub(f32x4.mul(tz, rx), f32x4.mul(tx, rz))));
    const z = f32x4.add(f32x4.mul(n, rz), f32x4.mul(b, f32x4.sub(f32x4.mul(tx, ry), f32x4.mul(ty, rx))));
    const at = position + 24 * <usize>p;
    shift(at + 24 * line0, f32x4.extract_lane(x, 0), f32x4.extract_lane(y, 0), f32x4.extract_lane(z, 0));
    if (taken > 1) shift(at + 24 * line1, f32x4.extract_lane(x, 1), f32x4.extract_lane(y, 1), f32x4.extract_lane(z, 1));
    if (taken > 2) shift(at + 24 * line2, f32x4.extract_lane(x, 2), f32x4.extract_lane(y, 2), f32x4.extract_lane(z, 2));
    if (taken > 3) shift(at + 24 * line3, f32x4.extract_lane(x, 3), f32x4.extract_lane(y, 3), f32x4.extract_lane(z, 3));
  }
}

/** Noise −1…1 between the values at a whole number and the next; `twice` is twice the eased share between them. */
// @ts-expect-error: decorator
function noise(ids: v128, whole: v128, name: u32, twice: v128): v128 {
  const a = randomAt(ids, whole, name);
  const b = randomAt(ids, i32x4.add(whole, i32x4.splat(1)), name);
  const from = f32x4.sub(f32x4.add(a, a), f32x4.splat(1));
  return f32x4.add(from, f32x4.mul(f32x4.sub(b, a), twice));
}

/** `randomAt` of the core: even in 0…1. `ids` are mixed with the seed already. */
// @ts-expect-error: decorator
function randomAt(ids: v128, whole: v128, name: u32): v128 {
  const own = mix(v128.xor(ids, i32x4.mul(whole, i32x4.splat(0x9e3779b1))));
  return f32x4.mul(f32x4.convert_i32x4_u(mix(i32x4.add(own, i32x4.splat(name)))), f32x4.splat(1.0 / 4294967296.0));
}

// @ts-expect-error: decorator
function mix(value: v128): v128 {
  let h = i32x4.mul(v128.xor(value, i32x4.shr_u(value, 16)), i32x4.splat(0x85ebca6b));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 13)), i32x4.splat(0xc2b2ae35));
  return v128.xor(h, i32x4.shr_u(h, 16));
}

function mixOne(value: u32): u32 {
  return <u32>i32x4.extract_lane(mix(i32x4.splat(value)), 0);
}

// @ts-expect-error: decorator
function dot(ax: v128, ay: v128, az: v128, bx: v128, by: v128, bz: v128): v128 {
  return f32x4.add(f32x4.mul(ax, bx), f32x4.add(f32x4.mul(ay, by), f32x4.mul(az, bz)));
}

// @ts-expect-error: decorator
function four(a: f32, b: f32, c: f32, d: f32): v128 {
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(a), 1, b), 2, c), 3, d);
}

/** From a number of a point to that of the next. */
// @ts-expect-error: decorator
function difference(point: usize, axis: usize): f32 {
  return <f32>(load<f64>(point + axis + 24) - load<f64>(point + axis));
}

// @ts-expect-error: decorator
function loadFour(from: usize, p: u32): v128 {
  const at = from + 4 * <usize>p;
  return four(
    load<f32>(at + 4 * line0),
    load<f32>(at + 4 * line1),
    load<f32>(at + 4 * line2),
    load<f32>(at + 4 * line3),
  );
}

// @ts-expect-error: decorator
function storeAlong(along: usize, p: u32, value: v128): void {
  const at = along + 4 * <usize>p;
  store<f32>(at + 4 * line3, f32x4.extract_lane(value, 3));
  store<f32>(at + 4 * line2, f32x4.extract_lane(value, 2));
  store<f32>(at + 4 * line1, f32x4.extract_lane(value, 1));
  store<f32>(at + 4 * line0, f32x4.extract_lane(value, 0));
}

// @ts-expect-error: decorator
function place(point: usize, x: f32, y: f32, z: f32): void {
  store<f64>(point, <f64>x);
  store<f64>(point, <f64>y, 8);
  store<f64>(point, <f64>z, 16);
}

// @ts-expect-error: decorator
function shift(point: usize, x: f32, y: f32, z: f32): void {
  store<f64>(point, load<f64>(point) + <f64>x);
  store<f64>(point, load<f64>(point, 8) + <f64>y, 8);
  store<f64>(point, load<f64>(point, 16) + <f64>z, 16);
}
