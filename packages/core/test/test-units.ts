import { curveLengths } from '../src/curve/arc-length.js';
import { copyCurves } from '../src/curve/carry.js';
import { curveCount, singleCurve } from '../src/curve/curve-set.js';
import { rotationMinimizingFrames } from '../src/curve/frames.js';
import { resample } from '../src/curve/resample.js';
import { Walk } from '../src/curve/walk.js';
import { type Mesh, mergeMeshes } from '../src/mesh/mesh.js';
import { greatest, valueAt } from '../src/numeric/lane.js';
import { childId } from '../src/numeric/random.js';
import { cross, upAcross, vec3 } from '../src/numeric/vector.js';
import { polygonSection, roundSection } from '../src/section/section.js';
import { sweep } from '../src/sweep/sweep.js';
import { madeOf } from '../src/unit/carriers.js';
import { defineUnit } from '../src/unit/unit.js';

// One tiny recipe for each kind of part. No room of Kelp knows them.

const size = {
  kind: 'length',
  label: 'Size',
  help: 'Half of how thick it is.',
  default: 0.012,
  min: 1e-4,
  max: 10,
  comfortable: [0.001, 0.1],
  share: 'size',
  gauge: 'diameter',
} as const;

/** A bead of radius 1 about the origin, its bore along +Z. */
const bead = (): Mesh =>
  sweep(singleCurve([0, 0, -0.8, 0, 0, 0.8]), polygonSection(8), { radius: 1, start: 'flat', end: 'flat' });

/** Placed parts: one mesh many times, an element each. */
const beads = defineUnit({
  stage: 'make',
  id: 'test-beads',
  label: 'Beads',
  purpose: 'Beads on a line.',
  shelf: 'elements',
  parameters: {
    size,
    gap: {
      kind: 'ratio',
      of: 'size',
      label: 'Gap',
      help: 'From bead to bead.',
      default: 3,
      min: 2,
      max: 100,
      comfortable: [2, 10],
      along: true,
      group: 'Spacing',
      gauge: 'spacing',
    },
  },
  presets: [
    { id: 'wide', label: 'Wide beads', parameters: {} },
    { id: 'close', label: 'Close beads', parameters: { gap: 2.2 } },
  ],
  thickness: ({ size: radius }) => radius,
  describe: ({ size: radius }, length) => `Beads of ${length(2 * radius)}`,
  build(input, { size: radius, gap }) {
    const matrix: number[] = [];
    const [along, curve, id]: number[][] = [[], [], []];
    const [at, tangent, up] = [vec3(), vec3(), vec3()];
    for (let c = 0; c < curveCount(input); c++) {
      const walk = new Walk(input, c);
      for (let s = radius, k = 0; s < walk.length; s += radius * valueAt(gap, s / walk.length), k++) {
        walk.pointAt(s, at);
        walk.directionAt(s, tangent);
        upAcross(up, tangent);
        const side = cross(vec3(), up, tangent);
        matrix.push(...side.map((v) => v * radius), 0, ...up.map((v) => v * radius), 0);
        matrix.push(...tangent.map((v) => v * radius), 0, ...at, 1);
        along.push(s);
        curve.push(c);
        id.push(childId(input.id[c], k));
      }
    }
    const places = {
      id: Uint32Array.from(id),
      matrix: Float32Array.from(matrix),
      along: Float32Array.from(along),
      curve: Uint32Array.from(curve),
      colour: Float32Array.from({ length: 3 * id.length }, (_, i) => (i % 6 < 3 ? 1 : 0.5)),
    };
    return madeOf(input, {
      parts: [{ kind: 'placed', id: 'beads', name: 'Beads', slot: 'main', mesh: bead(), places }],
      marks: [{ kind: 'element', label: 'Beads', along: places.along, curve: places.curve, id: places.id }],
      measures: [{ id: 'beads', label: 'Beads', quantity: 'count', value: id.length }],
      tables: [
        {
          id: 'beads',
          label: 'Beads',
          columns: [{ label: 'At', quantity: 'length' }],
          rows: along.map((metres) => [metres]),
        },
      ],
    });
  },
});

/** Strands: many thin lines. */
const wisps = defineUnit({
  stage: 'make',
  id: 'test-wisps',
  label: 'Wisps',
  purpose: 'Strands side by side.',
  shelf: 'strands',
  parameters: { size },
  presets: [{ id: 'wisps', label: 'Wisps', parameters: {} }],
  thickness: ({ size: radius }) => radius,
  describe: () => 'Wisps',
  build(input, { size: radius }) {
    const line = resample(input, { maxTurn: 0.2, spacing: 10 * radius });
    const { normal, tangent } = rotationMinimizingFrames(line);
    const strands = copyCurves(
      line,
      7,
      (x, y, z, k, out, i) => {
        const p = i % line.position.length;
        const turn = (2 * Math.PI * k) / 6;
        const far = k === 6 ? 0 : radius * 0.8;
        const [n, t] = [normal.subarray(p, p + 3), tangent.subarray(p, p + 3)];
        const b = cross(vec3(), t, n);
        [x, y, z].forEach((value, axis) => {
          out[i + axis] = value + far * (Math.cos(turn) * n[axis] + Math.sin(turn) * b[axis]);
        });
      },
      (id, k) => childId(id, k),
    );
    const width = new Float32Array(strands.position.length / 3).fill(0.3 * radius);
    return madeOf(line, {
      parts: [{ kind: 'strands', id: 'wisps', name: 'Wisps', slot: 'main', curves: strands, width, sides: 5 }],
    });
  },
});

/** Two slots in one mesh: a tube and the bead along it. */
const piping = defineUnit({
  stage: 'make',
  id: 'test-piping',
  label: 'Piping',
  purpose: 'A cord with a flange.',
  shelf: 'swept',
  slots: [{ id: 'trim', label: 'Trim', wears: { unit: 'plain', preset: 'steel' } }],
  parameters: { size },
  presets: [{ id: 'piping', label: 'Piping', parameters: {} }],
  thickness: ({ size: radius }) => radius,
  describe: () => 'Piping',
  build(input, { size: radius }) {
    const line = resample(input, { maxTurn: 0.1, spacing: radius });
    const frames = rotationMinimizingFrames(line);
    const beside = {
      ...line,
      position: line.position.map((value, i) => value + 1.4 * radius * frames.normal[i]),
    };
    const cord = sweep(line, roundSection(12), { radius, start: 'flat', end: 'flat' });
    const trim = sweep(beside, roundSection(6), { radius: radius / 3, start: 'flat', end: 'flat' });
    const mesh = mergeMeshes([cord, { ...trim, groups: trim.groups.map((group) => ({ ...group, slot: 'trim' })) }]);
    const level = new Float32Array(mesh.position.length / 3).map((_, v) => (v < cord.position.length / 3 ? 0 : 1));
    return madeOf(line, {
      parts: [
        {
          kind: 'mesh',
          id: 'piping',
          name: 'Piping',
          slot: 'main',
          mesh: { ...mesh, attributes: { level: { size: 1, data: level } } },
        },
      ],
      bodies: [
        {
          id: 'cord',
          curves: line,
          section: { radius: new Float32Array(line.position.length / 3).fill(radius), least: 1 },
          leastBend: 1,
        },
      ],
    });
  },
});

/** A part that turns with the clock. */
const spinner = defineUnit({
  stage: 'make',
  id: 'test-spinner',
  label: 'Spinner',
  purpose: 'A wheel at the end of a rod.',
  shelf: 'elements',
  parameters: { size },
  presets: [{ id: 'spinner', label: 'Spinner', parameters: {} }],
  thickness: ({ size: radius }) => radius,
  describe: () => 'Spinner',
  build(input, { size: radius }) {
    const walk = new Walk(input, 0);
    const at = walk.pointAt(walk.length, vec3());
    const axis = walk.directionAt(walk.length, vec3());
    const wheel = sweep(singleCurve([...at, ...at.map((value, n) => value + radius * axis[n])]), polygonSection(5), {
      radius: 4 * radius,
      start: 'flat',
      end: 'flat',
    });
    const rod = sweep(resample(input, { maxTurn: 0.1 }), roundSection(8), { radius, start: 'flat', end: 'flat' });
    return madeOf(input, {
      parts: [
        { kind: 'mesh', id: 'rod', name: 'Rod', slot: 'main', mesh: rod },
        { kind: 'mesh', id: 'wheel', name: 'Wheel', slot: 'main', mesh: wheel },
      ],
      motion: [{ part: 'wheel', kind: 'turn', at, axis, turns: 1 }],
      marks: [
        {
          kind: 'joint',
          label: 'Joints',
          along: Float32Array.of(curveLengths(input)[0]),
          curve: Uint32Array.of(0),
          id: Uint32Array.of(1),
        },
      ],
      measures: [{ id: 'thickest', label: 'Thickest', quantity: 'length', value: 8 * greatest(radius) }],
    });
  },
});

export const TEST_UNITS: readonly unknown[] = [beads, wisps, piping, spinner];
/** The name under which a build takes them. */
export const FURTHER = TEST_UNITS;
