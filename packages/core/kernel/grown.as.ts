// Strands grown from guides in AssemblyScript: the walk from the guides over a skin, what share each has at a place, and the
// strands mixed from them. `npm run kernel` compiles this file into packages/core/src/path/grown/binary.ts; all addresses
// are bytes in the module's one memory, laid out by its caller (path/grown/over-skin.ts, where each step is explained).

/** Guides that have a say at one place at most; the one that comes after them reports where the last one's say ends. */
const MAX_NEAR: u32 = 4;
export const EACH: u32 = MAX_NEAR + 1;
/** Ways along edges are longer than straight ones by no more than this, however the edges lie. */
export const DETOUR: f64 = 1.5;

// the skin: places of each face, world xyz and normal of each place, its neighbours
let corner: usize = 0;
let position: usize = 0;
let normal: usize = 0;
let start: usize = 0;
let next: usize = 0;
/** Of each place the `EACH` guides that are nearest, in a line of the processor's memory: how far along the edges (f64), which (i32), −1 for none. */
let near: usize = 0;
export const NEAR: usize = 64;
const GUIDES: usize = 40;
/** What is still to be gone on from, in queues by how far it is: the first entry of each, 0 for none. */
let queues: usize = 0;
let queueCount: f64 = 1;
/** How much further what is in the next queue is. */
let queueWidth: f64 = 1;
/** The first queue that is not empty yet, and how many entries all have. */
let current: usize = 0;
let size: u32 = 0;
/** Entries at the end of the memory, which grows with them: far (f64), place, guide, the next one (u32). The first is none. */
let entries: usize = 0;
const ENTRY: usize = 24;
let made: u32 = 1;
/** The first of those that are free again. */
let free: u32 = 0;

export function setSkin(
  corners: usize,
  positions: usize,
  normals: usize,
  starts: usize,
  neighbours: usize,
  nearest: usize,
  waiting: usize,
  count: u32,
  width: f64,
  rest: usize,
): void {
  corner = corners;
  position = positions;
  normal = normals;
  start = starts;
  next = neighbours;
  near = nearest;
  queues = waiting;
  queueCount = count;
  queueWidth = width;
  entries = rest;
}

/** Of this many places no guide is known. */
export function forget(places: u32): void {
  for (let at = near, end = near + NEAR * <usize>places; at < end; at += NEAR) {
    for (let i: usize = 0; i < EACH; i++) {
      store<f64>(at + 8 * i, Infinity);
      store<i32>(at + 4 * i, -1, GUIDES);
    }
  }
}

function apart(a: usize, b: usize): f64 {
  const x = load<f64>(b) - load<f64>(a);
  const y = load<f64>(b, 8) - load<f64>(a, 8);
  const z = load<f64>(b, 16) - load<f64>(a, 16);
  return sqrt(x * x + y * y + z * z);
}

function push(far: f64, place: u32, guide: u32): void {
  let entry = free;
  if (entry > 0) free = load<u32>(entries + ENTRY * entry, 16);
  else {
    entry = made++;
    if (entries + ENTRY * made > (<usize>memory.size()) << 16) memory.grow(memory.size() / 4 + 1);
  }
  const at = entries + ENTRY * entry;
  const queue = queues + 4 * <usize>min(far / queueWidth, queueCount - 1);
  store<f64>(at, far);
  store<u32>(at, place, 8);
  store<u32>(at, guide, 12);
  store<u32>(at, load<u32>(queue), 16);
  store<u32>(queue, entry);
  size++;
}

/** A guide that may come to a place in so far: kept, and gone on from, where it is among the nearest known so far. */
export function reaches(p: u32, g: i32, far: f64): void {
  const ways = near + NEAR * <usize>p;
  const guides = ways + GUIDES;
  let at: usize = 0;
  while (at < EACH - 1 && load<i32>(guides + 4 * at) !== g && load<i32>(guides + 4 * at) >= 0) at++;
  if (!(far < load<f64>(ways + 8 * at))) return;
  // those that are further move up to where it was, or the last one out
  for (; at > 0 && load<f64>(ways + 8 * at - 8) > far; at--) {
    store<i32>(guides + 4 * at, load<i32>(guides + 4 * at - 4));
    store<f64>(ways + 8 * at, load<f64>(ways + 8 * at - 8));
  }
  store<i32>(guides + 4 * at, g);
  store<f64>(ways + 8 * at, far);
  push(far, p, g);
}

/**
 * Goes on from the nearest ones, as many as `budget`, no way longer than `most`; returns how many were gone on from. Within a
 * queue the order is any: what turns out too far is mended when the shorter way comes (Meyer & Sanders: Δ-stepping, 2003).
 */
export function walk(budget: i32, most: f64): i32 {
  let done = 0;
  while (size > 0 && done < budget) {
    while (load<u32>(queues + 4 * current) === 0) current++;
    const first = load<u32>(queues + 4 * current);
    const entry = entries + ENTRY * first;
    const far = load<f64>(entry);
    const p = load<u32>(entry, 8);
    const g = load<i32>(entry, 12);
    store<u32>(queues + 4 * current, load<u32>(entry, 16));
    store<u32>(entry, free, 16);
    free = first;
    size--;
    const ways = near + NEAR * <usize>p;
    const guides = ways + GUIDES;
    let at: usize = 0;
    while (at < EACH && load<i32>(guides + 4 * at) !== g) at++;
    // a shorter way was found since, or nearer guides
    if (at === EACH || load<f64>(ways + 8 * at) !== far) continue;
    done++;
    const here = position + 24 * <usize>p;
    const end = next + 4 * <usize>load<u32>(start + 4 * <usize>p, 4);
    for (let e = next + 4 * <usize>load<u32>(start + 4 * <usize>p); e < end; e += 4) {
      const q = load<u32>(e);
      const there = far + apart(here, position + 24 * <usize>q);
      if (there > most || there >= load<f64>(near + NEAR * <usize>q, 8 * (EACH - 1))) continue;
      reaches(q, g, there);
    }
  }
  return done;
}

// guides: world xyz of each root, normal there, length, how far its root is from the nearest place and back
let guideCount: u32 = 0;
let guideAt: usize = 0;
let guideNormal: usize = 0;
let guideLength: usize = 0;
let guideSlack: usize = 0;
/** Their points from the first one on: all x, all y, all z of a guide, each `wide` numbers of which the last may be unused. */
let guideShape: usize = 0;
let wide: usize = 0;
let points: u32 = 0;
/** Of each guide, at which asking it was met last and as the how manieth. */
let met: usize = 0;
let asking: u32 = 0;
/** Up to three times `EACH` guides at one place: which, how far, what share. */
let shareGuide: usize = 0;
let shareFar: usize = 0;
let share: usize = 0;
/** The strand that is being made: as one guide, then how far along each point is. */
let mixed: usize = 0;

export function setGuides(
  count: u32,
  at: usize,
  normals: usize,
  lengths: usize,
  slacks: usize,
  shapes: usize,
  each: u32,
  room: usize,
): void {
  guideCount = count;
  guideAt = at;
  guideNormal = normals;
  guideLength = lengths;
  guideSlack = slacks;
  guideShape = shapes;
  points = each;
  wide = (each + 1) & ~1;
  met = room;
  shareGuide = met + (((4 * count + 15) >> 4) << 4);
  shareFar = shareGuide + 64;
  share = shareFar + 128;
  mixed = share + 128;
}

/** How far the first guide without a say is, of this many. */
function after(count: u32): f64 {
  if (count <= MAX_NEAR) return Infinity;
  let a = Infinity;
  let b = Infinity;
  let c = Infinity;
  let d = Infinity;
  let e = Infinity;
  for (let k: u32 = 0; k < count; k++) {
    let far = load<f64>(shareFar + 8 * <usize>k);
    if (far >= e) continue;
    e = far;
    if (e < d) {
      far = d;
      d = e;
      e = far;
    }
    if (d < c) {
      far = c;
      c = d;
      d = far;
    }
    if (c < b) {
      far = b;
      b = c;
      c = far;
    }
    if (b < a) {
      far = a;
      a = b;
      b = far;
    }
  }
  return e;
}

/** Writes the shares of guides at a place of a face; returns how many there are, 0 where none has a say. */
function sharesAt(face: u32, where: usize, blocked: u32, reach: f64): u32 {
  asking += 16;
  let count: u32 = 0;
  for (let k: u32 = 0; k < 3; k++) {
    if ((blocked >> k) & 1) continue;
    const p = load<u32>(corner + 4 * <usize>(3 * face + k));
    const ways = near + NEAR * <usize>p;
    const guides = ways + GUIDES;
    if (load<i32>(guides) < 0) continue;
    const to = apart(where, position + 24 * <usize>p);
    for (let i: usize = 0; i < EACH; i++) {
      const g = load<i32>(guides + 4 * i);
      if (g < 0) break;
      const there = load<f64>(ways + 8 * i) + to;
      const stamp = met + 4 * <usize>g;
      const at = load<u32>(stamp) - asking;
      if (at < 16) {
        const far = shareFar + 8 * <usize>at;
        if (there < load<f64>(far)) store<f64>(far, there);
        continue;
      }
      store<u32>(stamp, asking + count);
      store<i32>(shareGuide + 4 * <usize>count, g);
      store<f64>(shareFar + 8 * <usize>count, there);
      count++;
    }
  }
  let own: i32 = -1;
  for (let k: u32 = 0; k < count; k++) {
    const g = <usize>load<u32>(shareGuide + 4 * <usize>k);
    const far = shareFar + 8 * <usize>k;
    const straight = apart(where, guideAt + 24 * g);
    const over = load<f64>(far) - load<f64>(guideSlack + 8 * g) - DETOUR * straight;
    store<f64>(far, straight + max(0, over));
    if (load<f64>(far) < 1e-9) own = k;
  }
  const limit = min(reach, after(count));
  let sum: f64 = 0;
  for (let k: u32 = 0; k < count; k++) {
    const far = load<f64>(shareFar + 8 * <usize>k);
    const say = 1 / far - 1 / limit;
    // a guide's own root: it alone
    const weight: f64 = own >= 0 ? (<i32>k === own ? 1 : 0) : far < limit ? say * say : 0;
    store<f64>(share + 8 * <usize>k, weight);
    sum += weight;
  }
  for (let k: u32 = 0; k < count; k++) store<f64>(share + 8 * <usize>k, load<f64>(share + 8 * <usize>k) / sum);
  return sum > 0 ? count : 0;
}

/** World xyz and smooth unit normal of a place in a face: six numbers. */
function place(face: u32, second: f64, third: f64, out: usize): void {
  const a = 24 * <usize>load<u32>(corner + 12 * <usize>face);
  const b = 24 * <usize>load<u32>(corner + 12 * <usize>face, 4);
  const c = 24 * <usize>load<u32>(corner + 12 * <usize>face, 8);
  const first = 1 - second - third;
  let long: f64 = 0;
  for (let n: usize = 0; n < 24; n += 8) {
    store<f64>(
      out + n,
      first * load<f64>(position + a + n) + second * load<f64>(position + b + n) + third * load<f64>(position + c + n),
    );
    const along =
      first * load<f64>(normal + a + n) + second * load<f64>(normal + b + n) + third * load<f64>(normal + c + n);
    store<f64>(out + n, along, 24);
    long += along * along;
  }
  long = sqrt(long);
  if (long === 0) long = 1;
  for (let n: usize = 24; n < 48; n += 8) store<f64>(out + n, load<f64>(out + n) / long);
}

/** Mixes the guides by their shares into `mixed`, each turned as the skin turns; returns by what it is to be stretched. */
function mix(count: u32, where: usize): f64 {
  const nx = load<f64>(where, 24);
  const ny = load<f64>(where, 32);
  const nz = load<f64>(where, 40);
  const row = 8 * wide;
  let wanted: f64 = 0;
  memory.fill(mixed, 0, 3 * row);
  for (let k: u32 = 0; k < count; k++) {
    const weight = load<f64>(share + 8 * <usize>k);
    if (weight === 0) continue;
    const g = <usize>load<u32>(shareGuide + 4 * <usize>k);
    wanted += weight * load<f64>(guideLength + 8 * g);
    // the least turn from the guide's normal to the strand's (Rodrigues); straight against each other there is none
    const gx = load<f64>(guideNormal + 24 * g);
    const gy = load<f64>(guideNormal + 24 * g, 8);
    const gz = load<f64>(guideNormal + 24 * g, 16);
    const cos = gx * nx + gy * ny + gz * nz;
    const turned = cos > -0.999;
    const f: f64 = turned ? 1 / (1 + cos) : 0;
    const x: f64 = turned ? gy * nz - gz * ny : 0;
    const y: f64 = turned ? gz * nx - gx * nz : 0;
    const z: f64 = turned ? gx * ny - gy * nx : 0;
    const xx = f64x2.splat(weight * (1 - f * (y * y + z * z)));
    const xy = f64x2.splat(weight * (f * x * y - z));
    const xz = f64x2.splat(weight * (f * x * z + y));
    const yx = f64x2.splat(weight * (f * x * y + z));
    const yy = f64x2.splat(weight * (1 - f * (x * x + z * z)));
    const yz = f64x2.splat(weight * (f * y * z - x));
    const zx = f64x2.splat(weight * (f * x * z - y));
    const zy = f64x2.splat(weight * (f * y * z + x));
    const zz = f64x2.splat(weight * (1 - f * (x * x + y * y)));
    let from = guideShape + 3 * row * g;
    for (let to = mixed, end = mixed + row; to < end; to += 16, from += 16) {
      const px = v128.load(from);
      const py = v128.load(from + row);
      const pz = v128.load(from + 2 * row);
      const ax = f64x2.add(f64x2.add(f64x2.mul(xx, px), f64x2.mul(xy, py)), f64x2.mul(xz, pz));
      const ay = f64x2.add(f64x2.add(f64x2.mul(yx, px), f64x2.mul(yy, py)), f64x2.mul(yz, pz));
      const az = f64x2.add(f64x2.add(f64x2.mul(zx, px), f64x2.mul(zy, py)), f64x2.mul(zz, pz));
      v128.store(to, f64x2.add(v128.load(to), ax));
      v128.store(to + row, f64x2.add(v128.load(to + row), ay));
      v128.store(to + 2 * row, f64x2.add(v128.load(to + 2 * row), az));
    }
  }
  const long = measure();
  // what leads different ways would be mixed to something short
  return long > 1e-3 * wanted && abs(wanted / long - 1) > 1e-12 ? wanted / long : 1;
}

/** Writes how far along the strand each of its points is; returns how long it is. */
function measure(): f64 {
  const row = 8 * wide;
  const far = mixed + 3 * row;
  let long: f64 = 0;
  store<f64>(far, 0);
  for (let at: usize = 8; at < 8 * <usize>points; at += 8) {
    const x = load<f64>(mixed + at) - load<f64>(mixed + at - 8);
    const y = load<f64>(mixed + row + at) - load<f64>(mixed + row + at - 8);
    const z = load<f64>(mixed + 2 * row + at) - load<f64>(mixed + 2 * row + at - 8);
    long += sqrt(x * x + y * y + z * z);
    store<f64>(far + at, long);
  }
  return long;
}

/** A strand that no guide leads: straight, between square to the skin and straight up. */
function standAlone(length: f64, upright: f64, where: usize): void {
  const x = load<f64>(where, 24) * (1 - upright);
  const y = load<f64>(where, 32) * (1 - upright) + upright;
  const z = load<f64>(where, 40) * (1 - upright);
  let long = sqrt(x * x + y * y + z * z);
  if (long === 0) long = 1;
  const row = 8 * wide;
  for (let k: u32 = 0; k < points; k++) {
    const far = (length * k) / ((points - 1) * long);
    const at = mixed + 8 * <usize>k;
    store<f64>(at, x * far);
    store<f64>(at + row, y * far);
    store<f64>(at + 2 * row, z * far);
  }
  measure();
}

/**
 * Writes strands at this many roots, one after the other.
 * @param blocked of each root, which corners of its face lie beyond a parting, a bit for each; 0 where there are no partings
 * @param leftOut 1 where strands that no guide reaches are none
 * @param which the numbers of those that are made
 * @returns how many
 */
export function grow(
  count: i32,
  faces: usize,
  shares: usize,
  blocked: usize,
  reach: f64,
  leftOut: i32,
  length: f64,
  upright: f64,
  where: usize,
  out: usize,
  normals: usize,
  along: usize,
  lengths: usize,
  which: usize,
): i32 {
  let written = 0;
  const row = 8 * wide;
  const far = mixed + 3 * row;
  memory.fill(met, 0, 4 * guideCount);
  asking = 0;
  for (let c = 0; c < count; c++) {
    const face = load<u32>(faces + 4 * <usize>c);
    place(face, load<f64>(shares + 16 * <usize>c), load<f64>(shares + 16 * <usize>c, 8), where);
    const led = guideCount > 0 ? sharesAt(face, where, blocked ? load<u8>(blocked + <usize>c) : 0, reach) : 0;
    let stretch: f64 = 1;
    if (led > 0) stretch = mix(led, where);
    else if (leftOut) continue;
    else standAlone(length, upright, where);
    const x = load<f64>(where);
    const y = load<f64>(where, 8);
    const z = load<f64>(where, 16);
    for (let at: usize = 0; at < 8 * <usize>points; at += 8, out += 24, along += 4) {
      store<f64>(out, x + stretch * load<f64>(mixed + at));
      store<f64>(out, y + stretch * load<f64>(mixed + row + at), 8);
      store<f64>(out, z + stretch * load<f64>(mixed + 2 * row + at), 16);
      store<f32>(along, <f32>(stretch * load<f64>(far + at)));
    }
    store<f32>(lengths + 4 * <usize>written, <f32>(stretch * load<f64>(far + 8 * <usize>points - 8)));
    store<f32>(normals, <f32>load<f64>(where, 24));
    store<f32>(normals, <f32>load<f64>(where, 32), 4);
    store<f32>(normals, <f32>load<f64>(where, 40), 8);
    normals += 12;
    store<u32>(which + 4 * <usize>written, c);
    written++;
  }
  return written;
}
