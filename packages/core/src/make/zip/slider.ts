import { singleCurve } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import { transformMesh } from '../../mesh/transform.js';
import { roundedBoxSection, roundSection } from '../../section/section.js';
import { sweep } from '../../sweep/sweep.js';
import { moved, ring } from '../elements/solids.js';
import { OVER, TALL } from './teeth.js';

// For a zip whose closed teeth are 2 wide: z towards where it is open, y away from the tape.

/** Half the length of a slider, and how far its sides stand off the teeth. */
const LONG = 1.9;
const CLEAR = 0.12;
const TOP = TALL + 0.1;

/** The slider: a plate over the teeth, wider where the halves come in, sides down to the tape, a bridge for the pull. */
export function sliderMesh(sides: number): Mesh {
  const steps = 9;
  const rails: number[] = [];
  const wide = new Float32Array(steps);
  for (let k = 0; k < steps; k++) {
    const t = k / (steps - 1);
    rails.push(0, TOP + 0.16, LONG * (2 * t - 1));
    // rounded at both ends, widest towards the open side
    wide[k] = (1 + CLEAR + 0.26 * t * t) * Math.sqrt(Math.max(0.3, 1 - (2 * t - 1) ** 6)) + 0.14;
  }
  const plate = sweep(singleCurve(rails, { smooth: true }), roundedBoxSection(1, 0.7, 3), {
    radius: 0.16,
    width: wide,
    startDirection: [0, 1, 0],
    start: 'round',
    end: 'round',
  });
  const walls = [1, -1].map((way) =>
    sweep(
      singleCurve([
        way * (1 + CLEAR),
        TOP / 2 + 0.06,
        -LONG * 0.8,
        way * (1 + CLEAR + 0.2),
        TOP / 2 + 0.06,
        LONG * 0.75,
      ]),
      roundedBoxSection(0.2, 0.6, 2),
      { radius: TOP / 2, startDirection: [0, 1, 0], start: 'chamfered', end: 'chamfered' },
    ),
  );
  const arch = Array.from({ length: 13 }, (_, k) => {
    const angle = (Math.PI * k) / 12;
    return [0, TOP + 0.24 + 0.42 * Math.sin(angle), 0.95 * Math.cos(angle)];
  });
  const bridge = sweep(singleCurve(arch.flat(), { smooth: true }), roundedBoxSection(1.7, 0.6, 2), {
    radius: 0.13,
    startDirection: [1, 0, 0],
  });
  // between the halves, where they part
  const wedge = sweep(singleCurve([0, 0.1, LONG * 0.72, 0, TOP, LONG * 0.72]), roundSection(Math.max(8, sides)), {
    radius: 0.16,
  });
  return mergeMeshes([plate, ...walls, bridge, wedge]);
}

/** What hangs on the bridge and lies over the closed teeth. @param long in half widths */
export function pullMesh(kind: string, long: number, sides: number): Mesh {
  const height = TOP + 0.44;
  const flat = (from: number, to: number, wide: number, high: number, thick: number) =>
    sweep(singleCurve([0, high, -from, 0, high, -to]), roundedBoxSection(wide / thick, 0.8, 3), {
      radius: thick,
      startDirection: [0, 1, 0],
      start: 'chamfered',
      end: 'chamfered',
    });
  const eye = transformMesh(lying(ring(0.2, 0.36, -0.09, 0.09, 2 * sides, 0.8)), moved(0, height, -0.42));
  if (kind === 'ring') {
    const radius = Math.max(0.5, (long - 0.6) / 2);
    return mergeMeshes([
      eye,
      transformMesh(
        lying(ring(radius - 0.28, radius, -0.12, 0.12, 3 * sides, 1)),
        moved(0, height - 0.06, -0.6 - radius),
      ),
    ]);
  }
  if (kind === 'toggle') {
    const cord = sweep(singleCurve([0, height, -0.6, 0, height, -long * 0.55]), roundSection(sides), { radius: 0.14 });
    const knob = sweep(singleCurve([0, height, -long * 0.5, 0, height, -long]), roundSection(sides), {
      radius: 0.42,
      start: 'round',
      end: 'round',
    });
    return mergeMeshes([eye, cord, knob]);
  }
  return mergeMeshes([eye, flat(0.7, long * 0.5, 0.42, height, 0.12), flat(long * 0.45, long, 0.66, height, 0.16)]);
}

/** A ring about z laid flat: about y. */
const lying = (mesh: Mesh): Mesh =>
  transformMesh(mesh, Float64Array.of(1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1));

/** What keeps the slider on: on one half where it is open, over both where it is closed. */
export const stopMesh = (both: boolean): Mesh => {
  const [from, to] = both ? [-1.05, 1.05] : [-1.05, OVER];
  return sweep(singleCurve([from, TALL / 2, 0, to, TALL / 2, 0]), roundedBoxSection(1.1, 0.5, 2), {
    radius: TALL / 2 + 0.06,
    startDirection: [0, 1, 0],
    start: 'chamfered',
    end: 'chamfered',
  });
};
