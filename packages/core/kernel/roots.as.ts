// Places spread over an area by dart throwing in AssemblyScript. `npm run kernel` compiles this file into
// packages/core/src/path/roots/binary.ts; all addresses are bytes in the module's one memory, laid out by its caller
// (path/roots/spread-roots.ts, where the method is explained). The formulas of a draw stand at `AreaPicker.pick` and
// `randomsOf`, those of a cell at `cellHash`.

/** Whether something stands at a place: asked only where `asks` is set. */
declare function keeps(x: f64, y: f64, z: f64, number: i32): i32;

/** Draws for one place: after these it is put where one fell. */
const MAX_DRAW_CALLS: i32 = 32;
/** Distance that full evenness keeps between places, as a share of √(area / count so far). */
const APART: f64 = 0.57;

// the area: places (f32) and corners (u32) of a mesh; which faces take part, the area up to the end of each, and the one in
// which each step of equal area begins
let position: usize = 0;
let index: usize = 0;
let wanted: usize = 0;
let until: usize = 0;
let begins: usize = 0;
let faces: u32 = 0;
let area: f64 = 0;
// a draw: the seed and the names of its three numbers; and where it fell
let seed: u32 = 0;
let nameA: u32 = 0;
let nameB: u32 = 0;
let nameC: u32 = 0;
let face: u32 = 0;
let second: f64 = 0;
let third: f64 = 0;
let x: f64 = 0;
let y: f64 = 0;
let z: f64 = 0;

export function setArea(
  places: usize,
  corners: usize,
  some: usize,
  ends: usize,
  steps: usize,
  count: u32,
  all: f64,
): void {
  position = places;
  index = corners;
  wanted = some;
  until = ends;
  begins = steps;
  faces = count;
  area = all;
}

export function setDraws(mixed: u32, first: u32, next: u32, last: u32): void {
  seed = mixed;
  nameA = first;
  nameB = next;
  nameC = last;
}

function mix(value: u32): u32 {
  let h = (value ^ (value >>> 16)) * 0x85ebca6b;
  h = (h ^ (h >>> 13)) * 0xc2b2ae35;
  return h ^ (h >>> 16);
}

function random(name: u32, id: u32): f64 {
  return <f64>mix(mix(seed ^ id) + name) / 4294967296;
}

function draw(id: u32): void {
  const which = random(nameA, id);
  const far = which * area;
  let low = load<u32>(begins + 4 * <usize>(which * faces));
  while (low < faces - 1 && load<f64>(until + 8 * <usize>low) <= far) low++;
  const root = sqrt(random(nameB, id));
  const t = random(nameC, id);
  const first = 1 - root;
  second = root * (1 - t);
  third = root * t;
  face = load<u32>(wanted + 4 * <usize>low);
  const at = index + 12 * <usize>face;
  const a = position + 12 * <usize>load<u32>(at);
  const b = position + 12 * <usize>load<u32>(at, 4);
  const c = position + 12 * <usize>load<u32>(at, 8);
  x = first * load<f32>(a) + second * load<f32>(b) + third * load<f32>(c);
  y = first * load<f32>(a, 4) + second * load<f32>(b, 4) + third * load<f32>(c, 4);
  z = first * load<f32>(a, 8) + second * load<f32>(b, 8) + third * load<f32>(c, 8);
}

/** Of the draws before the first one, `probes` of them: where something stands. */
export function stood(probes: i32): i32 {
  let count = 0;
  for (let k = 0; k < probes; k++) {
    draw(-1 - k);
    if (keeps(x, y, z, k)) count++;
  }
  return count;
}

// places so far in cells, and the distance that the next one is to keep from all of them; each place after the one before it
// in its cell, counted from 1
let share: f64 = 0;
let room: f64 = 0;
let cells: usize = 0;
let mask: i32 = 0;
let next: usize = 0;
let places: usize = 0;
let cellSize: f64 = 1;
let distance: f64 = 0;
/** This many places the cells are made for. */
let limit: u32 = 16;

// what comes out, of each place: its number, its face (u32), shares of the face's second and third corner (f64)
let outNumber: usize = 0;
let outFace: usize = 0;
let outShares: usize = 0;
let count: u32 = 0;
let number: i32 = 0;

/**
 * @param evenness share of the greatest distance that places keep
 * @param stands area that something stands on
 * @param table room for cells: two for each place that the last size of it is for
 */
export function begin(
  evenness: f64,
  stands: f64,
  table: usize,
  chain: usize,
  spots: usize,
  numbers: usize,
  faceOf: usize,
  sharesOf: usize,
): void {
  share = evenness * APART;
  room = stands;
  cells = table;
  next = chain;
  places = spots;
  outNumber = numbers;
  outFace = faceOf;
  outShares = sharesOf;
  count = 0;
  number = 0;
  limit = 16;
  makeCells(64);
  distance = keptDistance();
}

function keptDistance(): f64 {
  return share * sqrt(room / <f64>(count + 1));
}

/** Cells as wide as twice the distance that is kept while they are in use. */
function makeCells(size: i32): void {
  mask = size - 1;
  memory.fill(cells, 0, 4 * <usize>size);
  cellSize = 2.0001 * share * sqrt(room / (<f64>limit / 4));
  if (!(cellSize > 0)) cellSize = 1;
}

/** A cell's entry in the table; cells may share one by coincidence: what is in it is measured all the same. */
function cellOf(i: f64, j: f64, k: f64): usize {
  const h = (<i32>(<i64>i) * 0x9e3779b1) ^ (<i32>(<i64>j) * 0x85ebca6b) ^ (<i32>(<i64>k) * 0xc2b2ae35);
  return cells + 4 * <usize>((h ^ (h >>> 15)) & mask);
}

function put(i: u32): void {
  const at = places + 12 * <usize>i;
  const cell = cellOf(
    floor(<f64>load<f32>(at) / cellSize),
    floor(<f64>load<f32>(at, 4) / cellSize),
    floor(<f64>load<f32>(at, 8) / cellSize),
  );
  store<u32>(next + 4 * <usize>(i + 1), load<u32>(cell));
  store<u32>(cell, i + 1);
}

function add(): void {
  const at = places + 12 * <usize>count;
  store<f32>(at, <f32>x);
  store<f32>(at, <f32>y, 4);
  store<f32>(at, <f32>z, 8);
  count++;
  distance = keptDistance();
  if (share === 0) return;
  if (count < limit) {
    put(count - 1);
    return;
  }
  limit *= 4;
  makeCells(limit / 2);
  for (let i: u32 = 0; i < count; i++) put(i);
}

/** Whether no place is nearer than is to be kept: looked up in the cells that so far reaches into. */
function isFree(): bool {
  if (share === 0) return true;
  const most = distance * distance;
  const x1 = (x + distance) / cellSize;
  const y1 = (y + distance) / cellSize;
  const z1 = (z + distance) / cellSize;
  const y0 = floor((y - distance) / cellSize);
  const z0 = floor((z - distance) / cellSize);
  for (let i = floor((x - distance) / cellSize); i <= x1; i++)
    for (let j = y0; j <= y1; j++)
      for (let k = z0; k <= z1; k++)
        for (let n = load<u32>(cellOf(i, j, k)); n > 0; n = load<u32>(next + 4 * <usize>n)) {
          const at = places + 12 * <usize>(n - 1);
          const dx = <f64>load<f32>(at) - x;
          const dy = <f64>load<f32>(at, 4) - y;
          const dz = <f64>load<f32>(at, 8) - z;
          if (dx * dx + dy * dy + dz * dz < most) return false;
        }
  return true;
}

/**
 * Spreads on, for this many numbers, until `most` places stand or `last` numbers are tried.
 * @param asks 1 where something does not stand everywhere
 * @returns how many places stand
 */
export function spread(numbers: i32, most: u32, last: i32, asks: i32): u32 {
  for (let tried = 0; tried < numbers && number < last && count < most; tried++, number++) {
    let found = -1;
    let drawn = 0;
    for (let k = 0; k < MAX_DRAW_CALLS; k++) {
      drawn = k;
      draw(number * MAX_DRAW_CALLS + k);
      if (asks && !keeps(x, y, z, number)) {
        // what falls where nothing stands is not made up for by the same number: the density stays what it is
        if (k === 0) break;
        continue;
      }
      found = k;
      if (isFree()) break;
    }
    if (found < 0) continue;
    // none was free: the last one that something may stand on
    if (found !== drawn) draw(number * MAX_DRAW_CALLS + found);
    add();
    const at = count - 1;
    store<u32>(outNumber + 4 * <usize>at, number);
    store<u32>(outFace + 4 * <usize>at, face);
    store<f64>(outShares + 16 * <usize>at, second);
    store<f64>(outShares + 16 * <usize>at, third, 8);
  }
  return count;
}

/** Whether all numbers are tried. */
export function isOver(last: i32): bool {
  return number >= last;
}
