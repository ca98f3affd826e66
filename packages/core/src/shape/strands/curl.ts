import { CURVE, type CurveSet, curveCount } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { STRAND } from '../../curve/strand-data.js';
import { greatest } from '../../numeric/lane.js';
import { hashText, randomsOf } from '../../numeric/random.js';
import { defineUnit } from '../../unit/unit.js';
import { CHOSEN, chosenOf } from './chosen.js';
import { lengthOf, reshaped } from './reshape.js';
import { StrandLane } from './strand-lane.js';

/** Points of all curled strands together at most. */
const MAX_POINTS = 16_000_000;
/** A curl opens over this many turns. */
const OPENS = 0.75;

export const curl = defineUnit({
  stage: 'shape',
  id: 'curl',
  label: 'Curl',
  purpose: 'Winds every strand around its own line: curls, ringlets, waves, a curled tail.',
  synonyms: ['ringlet', 'wave', 'spiral', 'perm'],
  ownRegions: true,
  sample: { path: ['grown', { prop: 'bar', count: 120, length: 0.1 }], make: ['strands', {}], bar: true },
  parameters: {
    radius: {
      kind: 'ratio',
      of: 'strand length',
      label: 'Curl radius',
      help: 'Distance of the curl from the strand’s own line, root to tip.',
      default: 0.05,
      min: 0,
      max: 10,
      comfortable: [0, 0.2],
      along: true,
      gauge: 'sway',
    },
    turns: {
      kind: 'ratio',
      of: 'turns per strand',
      label: 'Turns',
      help: 'Turns from root to tip.',
      default: 4,
      min: 0,
      max: 1000,
      comfortable: [0, 16],
      gauge: 'figure',
    },
    begins: {
      kind: 'ratio',
      of: 'length',
      label: 'Curl start',
      help: 'Position along the strand where curling starts; 0 is the root.',
      default: 0.15,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'start',
    },
    weight: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Weight',
      help: 'How far a hanging strand’s own weight opens the curls; 0 is none, 1 opens them fully near the root.',
      default: 0.2,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
    },
    drawIn: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Keep length',
      help: '1 keeps the true length, so the strand reaches less far; 0 keeps the reach.',
      default: 0.5,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      gauge: 'figure',
    },
    hand: {
      kind: 'choice',
      label: 'Handedness',
      help: 'Winding direction seen from the root.',
      default: 'right',
      options: [
        { value: 'right', label: 'Right' },
        { value: 'left', label: 'Left' },
        { value: 'both', label: 'Random' },
      ],
    },
    alike: {
      kind: 'toggle',
      label: 'Curl clumps together',
      help: 'Curl the strands of a clump side by side; off gives each strand its own phase.',
      default: true,
    },
    pointsATurn: {
      kind: 'count',
      label: 'Points per turn',
      help: 'Minimum points per turn; points are added to strands with fewer.',
      default: 10,
      min: 4,
      max: 64,
      comfortable: [6, 16],
      gauge: 'samples',
    },
    seed: {
      kind: 'seed',
      label: 'Random seed',
      help: 'Change for different curl phases.',
      default: 1,
      min: 0,
      max: 1_000_000,
      comfortable: [0, 100],
      unmeasured: 'A seed has no size.',
    },
    ...CHOSEN,
  },
  presets: [
    { id: 'curls', label: 'Curls', parameters: {} },
    { id: 'waves', label: 'Waves', parameters: { turns: 2.5, radius: 0.03, weight: 0 } },
    {
      id: 'ringlet',
      label: 'Ringlet',
      parameters: {
        turns: 6,
        radius: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.03 },
            { at: 1, value: 0.06 },
          ],
        },
        begins: 0.25,
        weight: 0.35,
      },
    },
  ],
  describe: ({ turns }) => `Curl, ${+turns.toPrecision(3)} turns`,
  build(input, p, context): CurveSet {
    if (p.turns === 0 || greatest(p.radius) === 0) return input;
    const wound = p.turns * (1 - p.begins);
    const lines = finer(input, Math.ceil(p.turns * p.pointsATurn), context.report);
    const radius = new StrandLane(p.radius, lines, context);
    const chosen = chosenOf(lines, p, context);
    const phase = randomsOf(p.seed, hashText('curl phase'));
    const hand = randomsOf(p.seed, hashText('curl hand'));
    const clump = lines.curveData[STRAND.clump];
    const opens = p.begins + OPENS / p.turns;
    const frame = new Float64Array(6);
    let axis = new Float64Array(0);
    return reshaped(lines, context.step, (position, first, end, c) => {
      const weight = chosen ? chosen(c) : 1;
      if (weight === 0 || lines.closed[c]) return;
      radius.begin(c);
      const id = (p.alike && clump?.[c]) || lines.id[c];
      const left = p.hand === 'left' || (p.hand === 'both' && hand(id) < 0.5);
      const from = 2 * Math.PI * phase(id);
      if (p.drawIn > 0) {
        // a helix with this radius for its reach, as long as the strand was, reaches so far (Pythagoras on its unrolled turn)
        const round = (2 * Math.PI * wound * radius.at(0.6) * weight) / (1 - p.begins || 1);
        drawIn(position, first, end, p.begins, 1 - p.drawIn * (1 - 1 / Math.sqrt(1 + round * round)));
      }
      const length = lengthOf(position, first, end);
      startFrame(position, first, frame);
      const steps = end - first - 1;
      if (axis.length < 3 * (steps + 1)) axis = new Float64Array(3 * (steps + 1));
      axis.set(position.subarray(3 * first, 3 * end));
      // its turn at each point by turning on from the one before: the same step every time
      const step = ((left ? -1 : 1) * 2 * Math.PI * p.turns) / steps;
      const [cosStep, sinStep] = [Math.cos(step), Math.sin(step)];
      let cos = Math.cos(from - step * steps * p.begins);
      let sin = Math.sin(from - step * steps * p.begins);
      for (let k = 1; k <= steps; k++) {
        const t = k / steps;
        const turned = cos * cosStep - sin * sinStep;
        sin = sin * cosStep + cos * sinStep;
        cos = turned;
        carryFrame(axis, k, steps, frame);
        if (t <= p.begins) continue;
        const open = t < opens ? (t - p.begins) / (opens - p.begins) : 1;
        const by = weight * length * radius.at(t) * open * open * (3 - 2 * open) * (1 - p.weight * (1 - t));
        const [x, y] = [by * cos, by * sin];
        const i = 3 * (first + k);
        position[i] += x * frame[0] + y * frame[3];
        position[i + 1] += x * frame[1] + y * frame[4];
        position[i + 2] += x * frame[2] + y * frame[5];
      }
    });
  },
});

/** The strands with this many steps, where they have fewer. */
function finer(
  input: CurveSet,
  steps: number,
  report: (finding: { code: string; severity: 'warning'; message: string }) => void,
): CurveSet {
  const count = curveCount(input);
  if (count === 0 || input.start[1] - 1 >= steps) return input;
  const most = Math.max(2, Math.floor(MAX_POINTS / count) - 1);
  if (steps > most)
    report({
      code: 'too-many-points',
      severity: 'warning',
      message: `The turns need ${((steps + 1) * count).toLocaleString('en')} points (limit ${((most + 1) * count).toLocaleString('en')}): curls are not round. Reduce the turns, or the points per turn.`,
    });
  const out = resample(input, { steps: Math.min(steps, most) });
  delete out.curveData[CURVE.length];
  return out;
}

/** Shortens what comes after the beginning of the curl towards it. */
function drawIn(position: Float64Array, first: number, end: number, begins: number, share: number): void {
  const steps = end - first - 1;
  const still = Math.floor(begins * steps);
  for (let n = 0; n < 3; n++) {
    let before = position[3 * (first + still) + n];
    let at = before;
    for (let k = still + 1; k <= steps; k++) {
      const i = 3 * (first + k) + n;
      const step = position[i] - before;
      before = position[i];
      at += share * step;
      position[i] = at;
    }
  }
}

/** Two directions across the strand's first step. */
function startFrame(position: Float64Array, first: number, frame: Float64Array): void {
  const i = 3 * first;
  const [x, y, z] = [
    position[i + 3] - position[i],
    position[i + 4] - position[i + 1],
    position[i + 5] - position[i + 2],
  ];
  // the axis that the strand runs along least
  const least = Math.abs(x) <= Math.abs(y) && Math.abs(x) <= Math.abs(z) ? 0 : Math.abs(y) <= Math.abs(z) ? 1 : 2;
  frame.fill(0);
  frame[least] = 1;
  across(frame, x, y, z);
}

/** Carries them to the step before point `k`, with as little turn as can be. */
function carryFrame(axis: Float64Array, k: number, steps: number, frame: Float64Array): void {
  const [a, b] = [3 * (k - 1), 3 * Math.min(steps, k + 1)];
  across(frame, axis[b] - axis[a], axis[b + 1] - axis[a + 1], axis[b + 2] - axis[a + 2]);
}

/** Lays the first direction across a way, and the second across both. */
function across(frame: Float64Array, x: number, y: number, z: number): void {
  const size = Math.sqrt(x * x + y * y + z * z) || 1;
  x /= size;
  y /= size;
  z /= size;
  const along = frame[0] * x + frame[1] * y + frame[2] * z;
  let [a, b, c] = [frame[0] - along * x, frame[1] - along * y, frame[2] - along * z];
  const whole = Math.sqrt(a * a + b * b + c * c) || 1;
  a /= whole;
  b /= whole;
  c /= whole;
  frame[0] = a;
  frame[1] = b;
  frame[2] = c;
  frame[3] = y * c - z * b;
  frame[4] = z * a - x * c;
  frame[5] = x * b - y * a;
}
