// Members of trusses in AssemblyScript: how each stands between its two joints. `npm run kernel` compiles this file into
// packages/core/src/make/truss/binary.ts; all addresses are bytes in the module's one memory, laid out by its caller
// (make/truss/members.ts, where each step is explained).

// the lattice: kind (u8), joints at both ends, station and number (u32) of each member; xyz and way out of each joint (f64);
// how far along (f32) and on which line (u32) each station is
let kinds: usize = 0;
let begins: usize = 0;
let ends: usize = 0;
let stations: usize = 0;
let ids: usize = 0;
let joints: usize = 0;
let outwards: usize = 0;
let alongs: usize = 0;
let curves: usize = 0;

export function setLattice(
  kind: usize,
  begin: usize,
  end: usize,
  station: usize,
  id: usize,
  joint: usize,
  outward: usize,
  along: usize,
  curve: usize,
): void {
  kinds = kind;
  begins = begin;
  ends = end;
  stations = station;
  ids = id;
  joints = joint;
  outwards = outward;
  alongs = along;
  curves = curve;
}

/** Lengths from joint to joint. */
export function measure(count: u32, length: usize): void {
  for (let m: usize = 0; m < count; m++) {
    const a = joints + 24 * load<u32>(begins + 4 * m);
    const b = joints + 24 * load<u32>(ends + 4 * m);
    const x = load<f64>(b) - load<f64>(a);
    const y = load<f64>(b, 8) - load<f64>(a, 8);
    const z = load<f64>(b, 16) - load<f64>(a, 16);
    store<f64>(length + 8 * m, sqrt(x * x + y * y + z * z));
  }
}

const NONE: u32 = 0xffff_ffff;

/** Numbers of the longest and of the shortest member of each of this many kinds (u32 each), or none. */
export function extremes(count: u32, length: usize, many: u32, longest: usize, least: usize): void {
  for (let k: usize = 0; k < many; k++) {
    store<u32>(longest + 4 * k, NONE);
    store<u32>(least + 4 * k, NONE);
  }
  for (let m: usize = 0; m < count; m++) {
    const kind = 4 * (load<u8>(kinds + m) as usize);
    const metres = load<f64>(length + 8 * m);
    const most = load<u32>(longest + kind);
    if (most === NONE) {
      store<u32>(longest + kind, m as u32);
      store<u32>(least + kind, m as u32);
      continue;
    }
    if (metres > load<f64>(length + 8 * most)) store<u32>(longest + kind, m as u32);
    if (metres < load<f64>(length + 8 * load<u32>(least + kind))) store<u32>(least + kind, m as u32);
  }
}

/**
 * Members of each kind by how long they are cut, in whole steps. Of each kind the table says how much shorter than from joint
 * to joint (f64), and where its counts (u32 each, added to) begin and how many there are (u32, u32); it is given how long all
 * are together (f64) and how many are longer than there are counts for (u32).
 */
export const TALLY: usize = 32;
export function tally(count: u32, length: usize, table: usize, perMetre: f64): void {
  for (let m: usize = 0; m < count; m++) {
    const row = table + TALLY * (load<u8>(kinds + m) as usize);
    const cut = max(0, load<f64>(length + 8 * m) - load<f64>(row));
    store<f64>(row, load<f64>(row, 8) + cut, 8);
    const step = floor(cut * perMetre + 0.5);
    if (step < (load<u32>(row, 20) as f64)) {
      const at = load<u32>(row, 16) + 4 * (step as u32);
      store<u32>(at, load<u32>(at) + 1);
    } else store<u32>(row, load<u32>(row, 24) + 1, 24);
  }
}

/** Balls of one size at joints, as matrices (f32). */
export function balls(count: u32, radius: f32, into: usize): void {
  const x = f32x4(radius, 0, 0, 0);
  const y = f32x4(0, radius, 0, 0);
  const z = f32x4(0, 0, radius, 0);
  for (let j: usize = 0; j < count; j++) {
    const at = joints + 24 * j;
    const to = into + 64 * j;
    v128.store(to, x);
    v128.store(to, y, 16);
    v128.store(to, z, 32);
    v128.store(to, f32x4(load<f64>(at) as f32, load<f64>(at, 8) as f32, load<f64>(at, 16) as f32, 1), 48);
  }
}

/**
 * What is known of a kind of members: half thickness, what is cut off, cosine and sine of its turn (f64), then where the
 * next one's matrix (f32), number (u32), way along (f32) and line (u32) go.
 */
export const LOOK: usize = 48;
/** What is shorter than what is cut off leaves a stub of this much of its length at either side of its middle. */
const STUB: f64 = 0.45;

/** Where members stand, each with those of its kind; kinds without room for any (0) are left out. */
export function place(count: u32, length: usize, looks: usize): void {
  for (let m: usize = 0; m < count; m++) {
    const look = looks + LOOK * load<u8>(kinds + m);
    const into = load<u32>(look, 32);
    const long = load<f64>(length + 8 * m);
    if (into === 0 || !(long > 0)) continue;
    store<u32>(look, into + 64, 32);
    const station = 4 * load<u32>(stations + 4 * m);
    store<u32>(next(look, 36), load<u32>(ids + 4 * m));
    store<f32>(next(look, 40), load<f32>(alongs + station));
    store<u32>(next(look, 44), load<u32>(curves + station));
    const from3 = 24 * load<u32>(begins + 4 * m);
    const to3 = 24 * load<u32>(ends + 4 * m);
    const a = joints + from3;
    const b = joints + to3;
    const ax = load<f64>(a);
    const ay = load<f64>(a, 8);
    const az = load<f64>(a, 16);
    const perMetre = 1 / long;
    const zx = (load<f64>(b) - ax) * perMetre;
    const zy = (load<f64>(b, 8) - ay) * perMetre;
    const zz = (load<f64>(b, 16) - az) * perMetre;
    let x = load<f64>(outwards + from3) + load<f64>(outwards + to3);
    let y = load<f64>(outwards + from3, 8) + load<f64>(outwards + to3, 8);
    let z = load<f64>(outwards + from3, 16) + load<f64>(outwards + to3, 16);
    const lean = x * zx + y * zy + z * zz;
    x -= lean * zx;
    y -= lean * zy;
    z -= lean * zz;
    let size = x * x + y * y + z * z;
    if (size < 1e-18) {
      // it runs straight out: any side will do
      const aside = abs(zx) < 0.9;
      x = aside ? 0 : -zz;
      y = aside ? zz : 0;
      z = aside ? -zy : zx;
      size = x * x + y * y + z * z;
    }
    const by = load<f64>(look) / sqrt(size);
    x *= by;
    y *= by;
    z *= by;
    let u = zy * z - zz * y;
    let v = zz * x - zx * z;
    let w = zx * y - zy * x;
    const sin = load<f64>(look, 24);
    if (sin !== 0) {
      const cos = load<f64>(look, 16);
      const p = x;
      const q = y;
      const r = z;
      x = cos * p + sin * u;
      y = cos * q + sin * v;
      z = cos * r + sin * w;
      u = cos * u - sin * p;
      v = cos * v - sin * q;
      w = cos * w - sin * r;
    }
    const off = min(load<f64>(look, 8), STUB * long);
    const rest = long - 2 * off;
    v128.store(into, f32x4(x as f32, y as f32, z as f32, 0));
    v128.store(into, f32x4(u as f32, v as f32, w as f32, 0), 16);
    v128.store(into, f32x4((rest * zx) as f32, (rest * zy) as f32, (rest * zz) as f32, 0), 32);
    v128.store(into, f32x4((ax + off * zx) as f32, (ay + off * zy) as f32, (az + off * zz) as f32, 1), 48);
  }
}

/** Goes on by four bytes: where it was. */
function next(look: usize, which: usize): usize {
  const at = load<u32>(look + which);
  store<u32>(look + which, at + 4);
  return at;
}

/**
 * Members of the kinds that are wanted (u8 each) as lines of two points: the points (f64), how far along each is (f32), how
 * thick each is by kind (f64, written as f32), numbers (u32), lengths (f32).
 */
export function lines(
  count: u32,
  length: usize,
  wanted: usize,
  sizes: usize,
  position: usize,
  along: usize,
  radius: usize,
  id: usize,
  long: usize,
): void {
  let n: usize = 0;
  for (let m: usize = 0; m < count; m++) {
    const kind = load<u8>(kinds + m) as usize;
    const metres = load<f64>(length + 8 * m);
    if (load<u8>(wanted + kind) === 0 || !(metres > 0)) continue;
    const a = joints + 24 * load<u32>(begins + 4 * m);
    const b = joints + 24 * load<u32>(ends + 4 * m);
    const to = position + 48 * n;
    v128.store(to, v128.load(a));
    store<f64>(to, load<f64>(a, 16), 16);
    v128.store(to, v128.load(b), 24);
    store<f64>(to, load<f64>(b, 16), 40);
    v128.store64_lane(along + 8 * n, f32x4(0, metres as f32, 0, 0), 0);
    v128.store64_lane(radius + 8 * n, f32x4.splat(load<f64>(sizes + 8 * kind) as f32), 0);
    store<u32>(id + 4 * n, load<u32>(ids + 4 * m));
    store<f32>(long + 4 * n, metres as f32);
    n++;
  }
}
