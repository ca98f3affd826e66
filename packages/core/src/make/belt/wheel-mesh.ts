import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { arc, line, type Run, reversed, sectionFromRuns } from '../../section/runs.js';
import { roundedBoxSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { ring, turned } from '../elements/solids.js';

/** A wheel about z, its middle at 0; all metres. */
export interface WheelForm {
  /** Where the belt lies on it, and half how broad it is. */
  radius: number;
  half: number;
  /** Shares of the radius. */
  rim: number;
  hub: number;
  /** How far the rim stands up beside the belt, and half the room between. */
  flange: { high: number; half: number } | undefined;
  /** A groove for a V-belt: how deep, and half as wide above and below. */
  groove?: { deep: number; above: number; below: number };
  teeth?: Teeth;
  /** 0: a disc. */
  spokes: number;
  sides: number;
}

/** Teeth that fit a belt or a chain: the first gap looks along x. */
export interface Teeth {
  kind: 'toothed' | 'roller';
  count: number;
  /** Of the circle on which they are one pitch apart, metres. */
  pitchRadius: number;
  /** How deep a belt's teeth reach, and what they are wide at foot and tip; a chain's roller, its radius. */
  deep: number;
  foot: number;
  tip: number;
  roller: number;
}

/** Of a wheel's axle, and of what is bevelled off its edges, as shares. */
const BORE = 0.4;
const BEVEL = 0.06;
/** A spoke is so broad, in radii, and so thick, in breadths of the wheel. */
const SPOKE = { broad: 0.085, thick: 0.42 };
const WEB = 0.28;
/** A hub is this much broader than the rim. */
const HUB_OUT = 1.12;

/** Rim, hub and what is between them, each closed by itself. */
export function wheelMesh(form: WheelForm): Mesh {
  const { radius, half, hub, spokes, sides } = form;
  const foot = rootOf(form);
  const inner = Math.max(0.3 * radius, foot - form.rim * radius);
  const round = Math.min(hub * radius, 0.8 * inner);
  const parts = [
    form.teeth ? gear(form, inner) : rimMesh(form, inner),
    ring(BORE * round, round, -HUB_OUT * half, HUB_OUT * half, sides, 0.15),
  ];
  // what is between goes a little into both
  const [from, to] = [0.9 * round, inner + 0.25 * (foot - inner)];
  if (spokes === 0) parts.push(ring(from, to, -WEB * half, WEB * half, sides, 0));
  else {
    const thick = SPOKE.thick * half;
    const section = roundedBoxSection((SPOKE.broad * radius) / thick, 0.7, 2);
    for (let k = 0; k < spokes; k++) {
      const angle = (2 * Math.PI * (k + 0.5)) / spokes;
      const at = (far: number) => [far * Math.cos(angle), far * Math.sin(angle), 0];
      parts.push(sweep(singleCurve([...at(from), ...at(to)]), section, { radius: thick, startDirection: [0, 0, 1] }));
    }
  }
  return mergeMeshes(parts);
}

/** How deep down its outer face reaches, metres. */
const rootOf = ({ radius, groove, teeth }: WheelForm): number =>
  teeth?.kind === 'toothed'
    ? radius - teeth.deep
    : teeth
      ? teeth.pitchRadius - teeth.roller
      : radius - (groove?.deep ?? 0);

/** A rim without teeth: its outline turned about the axle. */
function rimMesh({ radius, half, flange, groove, sides }: WheelForm, inner: number): Mesh {
  const c = BEVEL * Math.min(half, radius - inner);
  /** From the middle of its face to one side: how far out, how far aside. */
  const side: [number, number][] = groove
    ? [
        [radius - groove.deep, Math.min(groove.below, half - 2 * c)],
        [radius, Math.min(groove.above, half - c)],
        [radius, half - c],
        [radius - c, half],
      ]
    : flange
      ? [
          [radius, flange.half],
          [radius + flange.high, flange.half + 0.35 * c],
          [radius + flange.high, flange.half + 0.16 * half],
          [radius, flange.half + 0.22 * half],
        ]
      : [
          [radius, half - c],
          [radius - c, half],
        ];
  const out = side[side.length - 1][1];
  const outline: [number, number][] = [...side, [inner, out]];
  return turned([...outline, ...outline.toReversed().map(([far, aside]): [number, number] => [far, -aside])], sides);
}

/** A rim with teeth: its outline drawn along the axle, its hole left open. */
function gear({ teeth, radius, half, sides }: WheelForm, inner: number): Mesh {
  const { kind, count } = teeth as Teeth;
  const outer = Array.from({ length: count }, (_, k) => {
    const angle = (2 * Math.PI * k) / count;
    return kind === 'toothed' ? beltTooth(teeth as Teeth, radius, angle) : sprocketTooth(teeth as Teeth, angle);
  }).flat();
  const hole = reversed([arc([0, 0], [inner, inner], 0, 2 * Math.PI, sides)]);
  const section = sectionFromRuns([
    { runs: outer, closed: true },
    { runs: hole, closed: true },
  ]);
  return sweep(singleCurve([0, 0, -half, 0, 0, half]), section, { radius: 1, startDirection: [1, 0, 0] });
}

/** A gap for a belt's tooth at an angle, and the tooth that follows: foot, flank, tip, flank. */
function beltTooth({ count, deep, foot, tip }: Teeth, outer: number, angle: number): Run[] {
  const root = outer - deep;
  const step = (2 * Math.PI) / count;
  const [low, high] = [tip / 2 / root, foot / 2 / outer];
  const on = (radius: number, at: number): [number, number] => [radius * Math.cos(at), radius * Math.sin(at)];
  return [
    arc([0, 0], [root, root], angle - low, angle + low, 2),
    ...line(...on(root, angle + low), ...on(outer, angle + high)),
    arc([0, 0], [outer, outer], angle + high, angle + step - high, 3),
    ...line(...on(outer, angle + step - high), ...on(root, angle + step - low)),
  ];
}

/** How far a sprocket's tooth stands up over the circle of its rollers, in roller radii; and how far a roller's seat goes round, radians. */
const TOOTH_UP = 0.75;
const SEAT = 1.05;

/** A roller's seat at an angle, and the tooth that follows (its seat as ISO 606 has it; flanks straight, common practice). */
function sprocketTooth({ count, pitchRadius, roller }: Teeth, angle: number): Run[] {
  const step = (2 * Math.PI) / count;
  const seat = (at: number): [number, number] => [pitchRadius * Math.cos(at), pitchRadius * Math.sin(at)];
  const [x, y] = seat(angle);
  const outer = pitchRadius + TOOTH_UP * roller;
  const half = Math.min(0.2 * step, (0.22 * roller) / outer);
  const on = (at: number): [number, number] => [outer * Math.cos(at), outer * Math.sin(at)];
  const from = angle + Math.PI + SEAT;
  const to = angle + Math.PI - SEAT;
  const [u, v] = seat(angle + step);
  const end: [number, number] = [x + roller * Math.cos(to), y + roller * Math.sin(to)];
  const next: [number, number] = [u + roller * Math.cos(from + step), v + roller * Math.sin(from + step)];
  const middle = angle + step / 2;
  return [
    arc([x, y], [roller, roller], from, to, 8),
    ...line(...end, ...on(middle - half)),
    arc([0, 0], [outer, outer], middle - half, middle + half, 2),
    ...line(...on(middle + half), ...next),
  ];
}
