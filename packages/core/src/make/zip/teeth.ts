import { allocateCurves, type CurveSet, singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundedBoxSection, roundSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { arcPlaces, lathe } from '../elements/solids.js';
import { frameAt, roomFor, walkOf } from '../elements/stations.js';
import type { Half } from './halves.js';

// Teeth of a zip whose closed teeth are 2 wide: x points across to the other half, its edge at −1, y away from the tape, z along.

/** How far a tooth reaches over the middle. */
export const OVER = 0.36;
/** How high teeth are above the tape. */
export const TALL = 0.62;

/** @param pitch from tooth to tooth of one half; the other half's stand between them: no tooth is as thick as half of it */
export function toothMesh(kind: string, pitch: number, sides: number): Mesh {
  // a bar along x: from, to, half its thickness along z, its height
  const bar = (from: number, to: number, thick: number, low: number, high: number, rounding: number): Mesh =>
    sweep(
      singleCurve([from, (low + high) / 2, 0, to, (low + high) / 2, 0]),
      roundedBoxSection((2 * thick) / (high - low), rounding, 2),
      { radius: (high - low) / 2, startDirection: [0, 1, 0] },
    );
  const side = 0.44 * (pitch / 2);
  switch (kind) {
    case 'metal':
      return mergeMeshes([
        bar(-1, OVER - 0.02, 0.8 * side, -0.06, 0.46, 0.3),
        bar(-1, -0.45, 0.85 * side, -0.06, TALL, 0.4),
        bar(0.02, OVER, side, -0.02, TALL - 0.06, 0.7),
      ]);
    case 'round': {
      const head = lathe(arcPlaces(0, side, -Math.PI / 2, Math.PI / 2, sides >> 1), sides, Math.PI);
      const ball = transformMesh(
        head,
        Float64Array.of(1, 0, 0, 0, 0, 1.1, 0, 0, 0, 0, 1, 0, OVER - side, TALL / 2, 0, 1),
      );
      return mergeMeshes([bar(-1, OVER - side, 0.7 * side, 0.04, TALL * 0.8, 0.9), ball]);
    }
    default:
      return mergeMeshes([
        bar(-1, -0.42, 1.5 * side, -0.06, TALL, 0.45),
        bar(-0.44, 0.04, 0.75 * side, 0.02, TALL * 0.86, 0.4),
        bar(0, OVER, side, 0, TALL * 0.95, 0.8),
      ]);
  }
}

/** Places of a coil for each time it goes round. */
export const COIL_STEPS = 14;
/** Radius of its wire, against the way from turn to turn. */
const WIRE = 0.19;

/** The coil of one half: once round for each tooth. @param at metres along the half, of each turn @param half width, metres */
export function coilLine(
  { side, framed }: Half,
  at: readonly number[],
  half: number,
  pitch: number,
  thick: number,
): { line: CurveSet; radius: number } {
  const radius = half * pitch * WIRE;
  const turns = Math.max(0, at.length - 1);
  const points = turns * COIL_STEPS + 1;
  const line = allocateCurves(1, points);
  line.start[1] = points;
  line.id[0] = side + 2;
  const walk = walkOf(framed, 0);
  const frame = roomFor(1);
  const [from, to] = [radius - half, OVER * half - radius];
  const tall = (TALL * half - 2 * radius) / 2;
  for (let k = 0; k < points; k++) {
    const turn = Math.min(turns - 1, Math.floor(k / COIL_STEPS));
    const t = k / COIL_STEPS - turn;
    const angle = 2 * Math.PI * (t - 0.5);
    frameAt(framed, walk, at[turn] + t * (at[turn + 1] - at[turn]), frame, 0);
    const { at: p, tangent: g, up } = frame;
    // flat ovals, as they are pressed
    const inward = (from + to) / 2 + ((to - from) / 2) * Math.sign(Math.cos(angle)) * Math.abs(Math.cos(angle)) ** 0.7;
    const high = thick + radius * 0.8 + tall * (1 + Math.sin(angle));
    for (let n = 0; n < 3; n++) {
      const across = g[(n + 1) % 3] * up[(n + 2) % 3] - g[(n + 2) % 3] * up[(n + 1) % 3];
      line.position[3 * k + n] = p[n] - side * inward * across + high * up[n];
    }
  }
  return { line, radius };
}

export const coilMesh = (coils: readonly { line: CurveSet; radius: number }[], sides: number): Mesh =>
  mergeMeshes(
    coils.map(({ line, radius }) =>
      sweep(line, roundSection(sides), { radius, start: 'round', end: 'round', hardAngle: Math.PI }),
    ),
  );
