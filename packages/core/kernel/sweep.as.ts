// The inner loops of a sweep in AssemblyScript, four numbers at a time. `npm run kernel` compiles this file into
// packages/core/src/sweep/kernel/binary.ts; all addresses are bytes in the module's one memory, laid out by its caller.

/**
 * Bytes from one column of the section to the next: x, y, normal x, normal y, u, what x and y become a metre further on
 * (0 but for `freeRings`), then one unused.
 */
const COLUMN: usize = 32;
/** Bytes from one ring to the next: centre, axis A, axis B, tangent (xyz and one unused each), then twelve numbers. */
const RING: usize = 112;
/** The inner side folds where κ·p passes 1; there no normal is right, and this keeps it finite. */
const MAX_SHRINK: f32 = 0.9;

/** Rings of a body that is even along its length: P = C + r·(x A + y B), N = nx A + ny B. Writes 4 bytes past each output. */
export function evenRings(rings: i32, columns: i32, section: usize, ring: usize, p: usize, n: usize, uv: usize): void {
  for (let r = 0; r < rings; r++, ring += RING) {
    const centre = v128.load(ring);
    const a = v128.load(ring, 16);
    const b = v128.load(ring, 32);
    const v = load<f32>(ring, 64);
    const radius = v128.load32_splat(ring, 68);
    const ra = f32x4.mul(a, radius);
    const rb = f32x4.mul(b, radius);
    let column = section;
    for (let k = 0; k < columns; k++, column += COLUMN, p += 12, n += 12, uv += 8) {
      const x = v128.load32_splat(column);
      const y = v128.load32_splat(column, 4);
      v128.store(p, f32x4.add(centre, f32x4.add(f32x4.mul(ra, x), f32x4.mul(rb, y))));
      const nx = v128.load32_splat(column, 8);
      const ny = v128.load32_splat(column, 12);
      v128.store(n, f32x4.add(f32x4.mul(a, nx), f32x4.mul(b, ny)));
      store<f32>(uv, load<f32>(column, 16));
      store<f32>(uv, v, 4);
    }
  }
}

/** The same for a section on the unit circle, whose places are its normals: P = C + r·N. */
export function roundRings(rings: i32, columns: i32, section: usize, ring: usize, p: usize, n: usize, uv: usize): void {
  for (let r = 0; r < rings; r++, ring += RING) {
    const centre = v128.load(ring);
    const a = v128.load(ring, 16);
    const b = v128.load(ring, 32);
    const v = load<f32>(ring, 64);
    const radius = v128.load32_splat(ring, 68);
    let column = section;
    for (let k = 0; k < columns; k++, column += COLUMN, p += 12, n += 12, uv += 8) {
      const normal = f32x4.add(f32x4.mul(a, v128.load32_splat(column, 8)), f32x4.mul(b, v128.load32_splat(column, 12)));
      v128.store(n, normal);
      v128.store(p, f32x4.add(centre, f32x4.mul(radius, normal)));
      store<f32>(uv, load<f32>(column, 16));
      store<f32>(uv, v, 4);
    }
  }
}

/** Rings of a body whose thickness or turn changes: its normals lean along the tangent; the formula stands at `sweep`. */
export function leaningRings(
  rings: i32,
  columns: i32,
  section: usize,
  ring: usize,
  p: usize,
  n: usize,
  uv: usize,
): void {
  for (let r = 0; r < rings; r++, ring += RING) {
    const centre = v128.load(ring);
    const a = v128.load(ring, 16);
    const b = v128.load(ring, 32);
    const tangent = v128.load(ring, 48);
    const v = load<f32>(ring, 64);
    const radius = load<f32>(ring, 68);
    const grow = load<f32>(ring, 72);
    const twist = load<f32>(ring, 76);
    const bendA = load<f32>(ring, 80);
    const bendB = load<f32>(ring, 84);
    let column = section;
    for (let k = 0; k < columns; k++, column += COLUMN, p += 12, n += 12, uv += 8) {
      const x = load<f32>(column) * radius;
      const y = load<f32>(column, 4) * radius;
      const nx = load<f32>(column, 8);
      const ny = load<f32>(column, 12);
      v128.store(p, f32x4.add(centre, f32x4.add(f32x4.mul(a, f32x4.splat(x)), f32x4.mul(b, f32x4.splat(y)))));
      const shrink: f32 = 1 - min(MAX_SHRINK, bendA * x + bendB * y);
      const lean = (grow * (x * nx + y * ny) + twist * (x * ny - y * nx)) / shrink;
      const size: f32 = 1 / sqrt<f32>(1 + lean * lean);
      const level = f32x4.add(f32x4.mul(a, f32x4.splat(nx * size)), f32x4.mul(b, f32x4.splat(ny * size)));
      v128.store(n, f32x4.sub(level, f32x4.mul(tangent, f32x4.splat(lean * size))));
      store<f32>(uv, load<f32>(column, 16));
      store<f32>(uv, v, 4);
    }
  }
}

/**
 * Rings of a body that is as high and as broad as it pleases and stands beside its line: P = C + X A + Y B with
 * X = r·x + a and Y = w·y + b; the formula of its normals stands at `sweep`.
 */
export function freeRings(rings: i32, columns: i32, section: usize, ring: usize, p: usize, n: usize, uv: usize): void {
  for (let r = 0; r < rings; r++, ring += RING) {
    const centre = v128.load(ring);
    const a = v128.load(ring, 16);
    const b = v128.load(ring, 32);
    const tangent = v128.load(ring, 48);
    const v = load<f32>(ring, 64);
    const radius = load<f32>(ring, 68);
    const grow = load<f32>(ring, 72) * radius;
    const twist = load<f32>(ring, 76);
    const bendA = load<f32>(ring, 80);
    const bendB = load<f32>(ring, 84);
    const width = load<f32>(ring, 88);
    const widen = load<f32>(ring, 92);
    const shiftA = load<f32>(ring, 96);
    const shiftB = load<f32>(ring, 100);
    const driftA = load<f32>(ring, 104);
    const driftB = load<f32>(ring, 108);
    let column = section;
    for (let k = 0; k < columns; k++, column += COLUMN, p += 12, n += 12, uv += 8) {
      const cx = load<f32>(column);
      const cy = load<f32>(column, 4);
      const x = cx * radius + shiftA;
      const y = cy * width + shiftB;
      // a normal of what is stretched: each side by the other's stretch
      let nx = load<f32>(column, 8) * width;
      let ny = load<f32>(column, 12) * radius;
      const level: f32 = sqrt<f32>(nx * nx + ny * ny);
      nx = level > 0 ? nx / level : load<f32>(column, 8);
      ny = level > 0 ? ny / level : load<f32>(column, 12);
      v128.store(p, f32x4.add(centre, f32x4.add(f32x4.mul(a, f32x4.splat(x)), f32x4.mul(b, f32x4.splat(y)))));
      const shrink: f32 = 1 - min(MAX_SHRINK, bendA * x + bendB * y);
      const dx = cx * grow + load<f32>(column, 20) * radius + driftA;
      const dy = cy * widen + load<f32>(column, 24) * width + driftB;
      const lean = (nx * (dx - twist * y) + ny * (dy + twist * x)) / shrink;
      const size: f32 = 1 / sqrt<f32>(1 + lean * lean);
      const flat = f32x4.add(f32x4.mul(a, f32x4.splat(nx * size)), f32x4.mul(b, f32x4.splat(ny * size)));
      v128.store(n, f32x4.sub(flat, f32x4.mul(tangent, f32x4.splat(lean * size))));
      store<f32>(uv, load<f32>(column, 16));
      store<f32>(uv, v, 4);
    }
  }
}

/**
 * The index pattern of one band, moved to the first vertex of each: `first`, and `step` further on for each after it.
 * Writes up to 12 bytes past the output.
 */
export function bands(count: i32, indices: i32, pattern: usize, first: i32, step: i32, out: usize): void {
  for (let band = 0; band < count; band++, first += step) {
    const by = i32x4.splat(first);
    for (let i = 0; i < indices; i += 4) {
      v128.store(out + 4 * i, i32x4.add(v128.load(pattern + 4 * i), by));
    }
    out += 4 * indices;
  }
}
