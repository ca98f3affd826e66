import { KelpError } from '../errors.js';
import { cornersOf } from './corners.js';

/**
 * Many curves in one block: one cable is a CurveSet of one, 100,000 hairs are a CurveSet too, and no curve is an object.
 *
 * Curve `c` owns the points `start[c] … start[c + 1] − 1`; point `p` has its xyz at `position[3p … 3p + 2]` (metres).
 * A closed curve does not repeat its first point: the edge from last to first is implied.
 */
export interface CurveSet {
  /** Offsets into the points, one more than there are curves. */
  start: Uint32Array;
  position: Float64Array;
  /** 1 where the curve is closed. */
  closed: Uint8Array;
  /** Stable id of each curve: survives a change of density, count or neighbours. */
  id: Uint32Array;
  /** One to four numbers a point: the array is this many times as long. The names with a meaning are in `POINT`. */
  pointData: Record<string, Float32Array>;
  /** One to four numbers a curve; whole ones (root triangle, clump, layer) as Uint32Array. Names with a meaning: `CURVE`. */
  curveData: Record<string, CurveData>;
}

export type CurveData = Float32Array | Uint32Array;

/** Point attributes that Kelp understands. Others travel along untouched. */
export const POINT = {
  /** 1 where the artist put a point: sag hangs between these, the view draws them. */
  knot: 'knot',
  /** 1 where the line turns sharply on purpose. */
  corner: 'corner',
  /** Thickness share at the point, 1 when absent. */
  radius: 'radius',
  /** Turn of the section at the point, radians, 0 when absent; adds to the roll of the piece. */
  roll: 'roll',
  /** Which drawn point this is, −1 in between: lets a finding point at the thing to move. */
  source: 'source',
  /** True length from the start, in metres; stays put when divisions change. */
  along: 'along',
  /** Which wheel of a belt's line the point lies on, counted from 1, below 0 where the wheel is a prop; 0 between them. */
  wheel: 'wheel',
  /** Radius of the line round that wheel, metres, above 0 where it keeps left; and how far the wheel stays off the line. */
  wheelRound: 'wheel-round',
  wheelOff: 'wheel-off',
} as const;

/** Curve attributes that Kelp understands. */
export const CURVE = {
  /** True length, in metres, closing edge included. */
  length: 'length',
} as const;

export const curveCount = (curves: CurveSet): number => curves.closed.length;
export const pointCount = (curves: CurveSet): number => curves.start[curves.start.length - 1];

/** An empty block for `curveCount` curves and `pointCount` points, with the given point attributes at 0. */
export function allocateCurves(curveTotal: number, pointTotal: number, attributes: readonly string[] = []): CurveSet {
  const pointData: Record<string, Float32Array> = {};
  for (const name of attributes) pointData[name] = new Float32Array(pointTotal);
  return {
    start: new Uint32Array(curveTotal + 1),
    position: new Float64Array(3 * pointTotal),
    closed: new Uint8Array(curveTotal),
    id: new Uint32Array(curveTotal),
    pointData,
    curveData: {},
  };
}

/**
 * A CurveSet of one from flat xyz. Nobody says of these points which are corners: bends above 20° are.
 * @param options.smooth the points are samples of a smooth line, however coarse: it has no corners
 */
export function singleCurve(
  position: ArrayLike<number>,
  options: { closed?: boolean; id?: number; smooth?: boolean } = {},
): CurveSet {
  const corners = options.smooth ? [] : cornersOf(position, options.closed ?? false);
  const curves = allocateCurves(1, position.length / 3, corners.length > 0 ? [POINT.corner] : []);
  for (const p of corners) curves.pointData[POINT.corner][p] = 1;
  curves.start[1] = position.length / 3;
  curves.position.set(position);
  curves.closed[0] = options.closed ? 1 : 0;
  curves.id[0] = options.id ?? 0;
  return curves;
}

/** What a point attribute means where a curve does not carry it. */
export const absentValue = (name: string): number => (name === POINT.radius ? 1 : name === POINT.source ? -1 : 0);

/**
 * Refuses what no operation can work on, naming the place.
 * @throws KelpError BAD_SHAPE (lengths that do not fit), BAD_NUMBER (NaN or infinite coordinate), TOO_FEW_POINTS
 */
export function checkCurves(curves: CurveSet): void {
  checkShape(curves);
  checkNumbers(curves);
}

/** The first half of it: whether the arrays fit each other, and each curve has points. */
export function checkShape(curves: CurveSet): void {
  const count = curveCount(curves);
  if (curves.start.length !== count + 1 || curves.id.length !== count)
    throw new KelpError(
      'BAD_SHAPE',
      `start has ${curves.start.length} offsets and id ${curves.id.length} for ${count} curves`,
    );
  if (curves.position.length !== 3 * pointCount(curves))
    throw new KelpError('BAD_SHAPE', `position has ${curves.position.length} numbers for ${pointCount(curves)} points`);
  for (let c = 0; c < count; c++) {
    const points = curves.start[c + 1] - curves.start[c];
    if (!(points >= 2)) throw new KelpError('TOO_FEW_POINTS', `Curve ${c} has ${points} points; it needs 2 or more`);
  }
}

function checkNumbers(curves: CurveSet): void {
  // what is no number, or endless, makes these sums no number: only then is there anything to look for
  let [x, y, z] = [0, 0, 0];
  for (let i = 0; i < curves.position.length; i += 3) {
    x += 0 * curves.position[i];
    y += 0 * curves.position[i + 1];
    z += 0 * curves.position[i + 2];
  }
  if (x + y + z === 0) return;
  for (let i = 0; i < curves.position.length; i++)
    if (!Number.isFinite(curves.position[i]))
      throw new KelpError('BAD_NUMBER', `Point ${Math.floor(i / 3)} has ${curves.position[i]} for ${'xyz'[i % 3]}`);
}
