import { carryCurves, carrySpots, copyCurves, joinCurves, pickCurves, roomLike } from '../curve/carry.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { negateRoll, reverseCurves } from '../curve/reverse.js';
import { greatest } from '../numeric/lane.js';
import { childId } from '../numeric/random.js';
import { MIN_TURN } from '../path/trace.js';
import { defineUnit } from '../unit/unit.js';

const PLANES = ['x', 'y', 'z'];

export const mirror = defineUnit({
  stage: 'shape',
  id: 'mirror',
  label: 'Mirror',
  purpose: 'Mirrors the line across a plane and keeps both sides in step.',
  synonyms: ['symmetry', 'reflect', 'flip'],
  sample: { parameters: { at: [0.17, 0, 0] } },
  parameters: {
    across: {
      kind: 'choice',
      label: 'Mirror axis',
      help: 'Axis perpendicular to the mirror plane.',
      default: 'x',
      options: [
        { value: 'x', label: 'x' },
        { value: 'y', label: 'y' },
        { value: 'z', label: 'z' },
      ],
    },
    at: {
      kind: 'point',
      gauge: 'place',
      grip: { kind: 'place' },
      label: 'Plane position',
      help: 'A point on the mirror plane.',
      default: [0, 0, 0],
    },
    keep: {
      kind: 'choice',
      label: 'Result',
      help: 'Keep both sides, or only the mirrored one.',
      default: 'both',
      options: [
        { value: 'both', label: 'Both' },
        { value: 'other', label: 'Mirrored only' },
      ],
    },
    seam: {
      kind: 'toggle',
      label: 'Join at plane',
      help: 'Join a line that ends at the plane with its mirrored half.',
      default: true,
      when: { parameter: 'keep', is: ['both'] },
    },
  },
  presets: [{ id: 'both', label: 'Both sides', parameters: {} }],
  describe: ({ across }) => `Mirrored across ${across === 'y' ? 'a level plane' : across}`,
  build(input, { across, at, keep, seam }, context) {
    const axis = PLANES.indexOf(across);
    const plane = at[axis];
    const other = copyCurves(
      input,
      1,
      (x, y, z, _copy, out, i) => {
        out[i] = x;
        out[i + 1] = y;
        out[i + 2] = z;
        out[i + axis] = 2 * plane - out[i + axis];
      },
      (id) => childId(id, 1),
    );
    negateRoll(other.pointData);
    if (keep === 'other') return other;
    // an end within a thickness of the plane was meant to meet it
    const near = Math.max(greatest(context.thickness), 1e-6);
    return seam ? joinAtPlane(input, other, axis, plane, near) : joinCurves([input, other]);
  },
});

function joinAtPlane(input: CurveSet, other: CurveSet, axis: number, plane: number, near: number): CurveSet {
  const apart: number[] = [];
  const joined: CurveSet[] = [];
  const meets = (p: number) => Math.abs(input.position[3 * p + axis] - plane) <= near;
  for (let c = 0; c < curveCount(input); c++) {
    const [first, end] = [input.start[c], input.start[c + 1]];
    const atStart = !input.closed[c] && meets(first);
    const atEnd = !input.closed[c] && meets(end - 1);
    if (!atStart && !atEnd) apart.push(c);
    else joined.push(joinOne(input, other, c, atStart, atEnd, axis, plane));
  }
  return joinCurves(
    [pickCurves(input, apart), ...joined, pickCurves(other, apart)].filter((set) => curveCount(set) > 0),
  );
}

/** One line through both halves; closed where both ends meet the plane. */
function joinOne(
  input: CurveSet,
  other: CurveSet,
  c: number,
  atStart: boolean,
  atEnd: boolean,
  axis: number,
  plane: number,
): CurveSet {
  const one = resample(pickCurves(input, [c]), { keepKnots: true, maxTurn: MIN_TURN });
  const two = resample(reverseCurves(pickCurves(other, [c])), { keepKnots: true, maxTurn: MIN_TURN });
  // runs from the far end to the plane, then on along the mirrored half
  const halves = joinCurves(atEnd ? [one, two] : [two, one]);
  const closed = atStart && atEnd;
  const [middle, end] = [halves.start[1], halves.start[2]];
  halves.position[3 * (middle - 1) + axis] = plane;
  if (closed) halves.position[axis] = plane;
  // the point at the plane is in both halves, and so is the first of a ring
  const kept = [...Array(closed ? end - 1 : end).keys()].filter((p) => p !== middle);
  const out = roomLike(halves, 1, kept.length);
  carrySpots(halves, { a: Uint32Array.from(kept), b: Uint32Array.from(kept), t: new Float64Array(kept.length) }, out);
  out.start[1] = kept.length;
  out.closed[0] = closed ? 1 : 0;
  out.id[0] = input.id[c];
  out.curveData = carryCurves(halves, [0]);
  const { knot, corner, source } = out.pointData;
  // what was drawn is one half of it: only ends and corners are held
  source?.fill(-1);
  knot?.forEach((_, p) => {
    knot[p] = corner?.[p] || (!closed && (p === 0 || p === kept.length - 1)) ? 1 : 0;
  });
  return resample(out, { keepKnots: true, maxTurn: MIN_TURN });
}
