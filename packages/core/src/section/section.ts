/**
 * The outline that is swept, in units of its radius: a sharp corner is two columns in the same place with different
 * normals. `face[f]` names the column at which face `f` begins; it spans `face[f] … face[f] + 1`.
 * Counter-clockwise seen against the direction of travel (x along the frame's normal, y along its binormal).
 */
export interface Section {
  x: Float64Array;
  y: Float64Array;
  normalX: Float64Array;
  normalY: Float64Array;
  /** Share of the way round, 0…1, by true length. */
  u: Float64Array;
  face: Uint32Array;
  /** Distinct places in order, one column each: the rim of a flat end. */
  rim: Uint32Array;
  /** Area and outline length, for radius 1. */
  area: number;
  perimeter: number;
  /** True when every place lies on the unit circle along its own normal: half the work of a sweep falls away. */
  round: boolean;
  /** How far the outline reaches from its middle, for radius 1. */
  reach: number;
  /** Where a flat end is no fan about its middle: its triangles, three numbers of `rim` each. */
  cap?: Uint32Array;
  /** An outline that does not close: it sweeps to a sheet, which has no ends. */
  open?: boolean;
  /** A dome fits on it: one outline all of which its middle sees. */
  domed: boolean;
}

/** Circle as an inscribed N-gon with the circle's own normals. */
export function roundSection(sides: number): Section {
  const x = new Float64Array(sides);
  const y = new Float64Array(sides);
  // the seam of the texture is away from the eye: opposite to the frame's normal, which looks up
  const below = sides >> 1;
  for (let i = 0; i < sides; i++) {
    x[i] = Math.cos((2 * Math.PI * (i + below)) / sides);
    y[i] = Math.sin((2 * Math.PI * (i + below)) / sides);
  }
  return sectionFromOutline(x, y, { normalX: x, normalY: y });
}

/** Regular N-gon with corners on the circle of radius 1, flat faces unless its corners turn less than `hardAngle`. */
export function polygonSection(sides: number, hardAngle = 0.5): Section {
  const { x, y } = roundSection(sides);
  return sectionFromOutline(x.subarray(0, sides), y.subarray(0, sides), { hardAngle });
}

/**
 * Box with rounded corners, 2 high (x, along the frame's normal) and 2·`width` wide (y): with the frame's normal up it
 * lies flat.
 * @param rounding 0 (sharp) … 1 (as round as the shorter side allows)
 * @param steps faces a corner
 */
export function roundedBoxSection(width: number, rounding: number, steps: number): Section {
  const r = Math.max(0, Math.min(1, rounding)) * Math.min(1, width);
  if (r < 1e-6)
    return sectionFromOutline(Float64Array.of(-1, -1, 1, 1), Float64Array.of(width, -width, -width, width), {
      hardAngle: 0.5,
    });
  const x: number[] = [];
  const y: number[] = [];
  const normalX: number[] = [];
  const normalY: number[] = [];
  const corners = [
    [r - 1, width - r, 0.5],
    [r - 1, r - width, 1],
    [1 - r, r - width, 1.5],
    [1 - r, width - r, 2],
  ];
  for (const [cx, cy, half] of corners) {
    for (let k = 0; k <= steps; k++) {
      const angle = Math.PI * half + ((Math.PI / 2) * k) / steps;
      const px = cx + r * Math.cos(angle);
      const py = cy + r * Math.sin(angle);
      // at full rounding the flats vanish and neighbouring corners share a place
      if (x.length > 0 && Math.hypot(px - x[x.length - 1], py - y[y.length - 1]) < 1e-9) continue;
      if (x.length > 0 && Math.hypot(px - x[0], py - y[0]) < 1e-9) continue;
      x.push(px);
      y.push(py);
      normalX.push(Math.cos(angle));
      normalY.push(Math.sin(angle));
    }
  }
  return sectionFromOutline(Float64Array.from(x), Float64Array.from(y), {
    normalX: Float64Array.from(normalX),
    normalY: Float64Array.from(normalY),
  });
}

interface OutlineOptions {
  /** Exact normals, one a point; without them they follow from the edges. */
  normalX?: Float64Array;
  normalY?: Float64Array;
  /** Corners that turn more than this are sharp, radians. */
  hardAngle?: number;
}

/** A section from a closed counter-clockwise outline; the first column is repeated at the end as the seam of `u`. */
export function sectionFromOutline(x: Float64Array, y: Float64Array, options: OutlineOptions): Section {
  const count = x.length;
  const next = (i: number) => (i + 1) % count;
  const edgeLength = Float64Array.from({ length: count }, (_, i) => Math.hypot(x[next(i)] - x[i], y[next(i)] - y[i]));
  const perimeter = edgeLength.reduce((sum, length) => sum + length, 0);
  const edgeX = (i: number) => (y[next(i)] - y[i]) / edgeLength[i];
  const edgeY = (i: number) => (x[i] - x[next(i)]) / edgeLength[i];
  const columns: Column[] = [];
  const face: number[] = [];
  const rim: number[] = [];
  let walked = 0;
  for (let i = 0; i <= count; i++) {
    const p = i % count;
    const before = (p + count - 1) % count;
    const u = walked / perimeter;
    const put = (nx: number, ny: number) => columns.push({ x: x[p], y: y[p], nx, ny, u });
    const turn = Math.acos(Math.max(-1, Math.min(1, edgeX(before) * edgeX(p) + edgeY(before) * edgeY(p))));
    const hard = !options.normalX && turn > (options.hardAngle ?? 0.5);
    if (options.normalX && options.normalY) put(options.normalX[p], options.normalY[p]);
    else if (hard) {
      if (i > 0) put(edgeX(before), edgeY(before));
      if (i < count) put(edgeX(p), edgeY(p));
    } else {
      const nx = edgeX(before) + edgeX(p);
      const ny = edgeY(before) + edgeY(p);
      const size = Math.hypot(nx, ny);
      put(nx / size, ny / size);
    }
    if (i < count) {
      face.push(columns.length - 1);
      rim.push(columns.length - 1);
      walked += edgeLength[p];
    }
  }
  let area = 0;
  for (let i = 0; i < count; i++) area += (x[i] * y[next(i)] - x[next(i)] * y[i]) / 2;
  return {
    ...inColumns(columns, face, rim),
    area,
    perimeter,
    round: options.normalX === x && options.normalY === y,
    domed: true,
  };
}

/** A place of an outline with its normal, and how far round it is. */
export interface Column {
  x: number;
  y: number;
  nx: number;
  ny: number;
  u: number;
}

/** What a section says of its columns. */
export function inColumns(columns: readonly Column[], face: readonly number[], rim: readonly number[]) {
  const pick = (key: keyof Column) => Float64Array.from(columns, (column) => column[key]);
  return {
    x: pick('x'),
    y: pick('y'),
    normalX: pick('nx'),
    normalY: pick('ny'),
    u: pick('u'),
    face: Uint32Array.from(face),
    rim: Uint32Array.from(rim),
    reach: columns.reduce((far, { x, y }) => Math.max(far, Math.hypot(x, y)), 0),
  };
}
