import { joinCurves, pickCurves } from '../../curve/carry.js';
import { catmullRom } from '../../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { STRAND } from '../../curve/strand-data.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { CHOSEN, chosenOf } from './chosen.js';
import { clumpsOf, meanLength } from './clump-centres.js';
import { reshaped } from './reshape.js';
import { StrandLane } from './strand-lane.js';

export const clump = defineUnit({
  stage: 'shape',
  id: 'clump',
  label: 'Clump',
  purpose: 'Draws strands together into wet fur, locks or brush bundles; use it twice for clumps within clumps.',
  synonyms: ['lock', 'wet', 'bundle', 'tuft'],
  ownRegions: true,
  sample: { path: ['grown', { prop: 'bar', count: 900, length: 0.06 }], make: ['strands', {}], bar: true },
  parameters: {
    by: {
      kind: 'choice',
      label: 'Clump size mode',
      help: 'Set the clump size relative to strand length, or as a length.',
      default: 'strand',
      options: [
        { value: 'strand', label: 'Relative' },
        { value: 'length', label: 'Length' },
      ],
    },
    share: {
      kind: 'ratio',
      of: 'strand length',
      label: 'Clump size',
      help: 'Distance between clump centres.',
      default: 0.3,
      min: 0.001,
      max: 100,
      comfortable: [0.05, 1],
      gauge: 'figure',
      when: { parameter: 'by', is: ['strand'] },
    },
    size: {
      kind: 'length',
      label: 'Clump size',
      help: 'Distance between clump centres.',
      default: 0.02,
      min: 1e-6,
      max: 100,
      comfortable: [0.002, 0.1],
      gauge: 'figure',
      when: { parameter: 'by', is: ['length'] },
    },
    tightness: {
      kind: 'ratio',
      of: 'maximum',
      label: 'Tightness',
      help: 'How far strands move to the centre of their clump, root to tip; 0 is none, 1 is all the way.',
      default: 0.6,
      min: 0,
      max: 1,
      comfortable: [0, 1],
      along: true,
      gauge: 'figure',
    },
    twist: {
      kind: 'ratio',
      of: 'turns',
      label: 'Twist',
      help: 'Turns around the clump centre from root to tip.',
      default: 0,
      min: -100,
      max: 100,
      comfortable: [-3, 3],
      gauge: 'figure',
    },
    reach: {
      kind: 'ratio',
      of: 'clump size',
      label: 'Clump reach',
      help: 'Strands with roots further than this from every centre stay outside clumps.',
      default: 1,
      min: 0,
      max: 1,
      comfortable: [0.2, 1],
      gauge: 'figure',
      group: 'Membership',
    },
    alone: {
      kind: 'choice',
      label: 'Strands outside clumps',
      help: 'Keep or remove strands outside every clump.',
      default: 'kept',
      options: [
        { value: 'kept', label: 'Keep' },
        { value: 'out', label: 'Remove' },
      ],
      group: 'Membership',
    },
    centres: {
      kind: 'curves',
      label: 'Clump centres',
      help: 'Drawn lines to clump around, root first; empty picks strands evenly.',
      default: [],
      group: 'Membership',
    },
    ...CHOSEN,
  },
  presets: [
    {
      id: 'clumps',
      label: 'Clumps',
      parameters: {
        tightness: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0 },
            { at: 1, value: 0.85 },
          ],
        },
      },
    },
    {
      id: 'wet',
      label: 'Wet',
      parameters: {
        share: 0.22,
        tightness: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.1 },
            { at: 0.6, value: 0.9 },
            { at: 1, value: 1 },
          ],
        },
      },
    },
    {
      id: 'twisted-locks',
      label: 'Twisted locks',
      parameters: {
        share: 0.4,
        twist: 1.5,
        tightness: {
          ease: 'smooth',
          knots: [
            { at: 0, value: 0.2 },
            { at: 1, value: 0.8 },
          ],
        },
      },
    },
  ],
  describe: ({ by, share, size }, length) =>
    `Clumps ${by === 'strand' ? `${+share.toPrecision(3)} of a strand` : length(size)} apart`,
  build(input, p, context): CurveSet {
    const spacing = p.by === 'strand' ? p.share * meanLength(input) : p.size;
    if (!(spacing > 0)) return input;
    const middles = middlesOf(input, p.centres, spacing, p.reach, context);
    const tightness = new StrandLane(p.tightness, input, context);
    const chosen = chosenOf(input, p, context);
    const { lines, centre } = middles;
    const out = reshaped(input, context.step, (position, first, end, c) => {
      const own = centre[c];
      if (own < 0 || (lines === input && own === c)) return;
      const weight = chosen ? chosen(c) : 1;
      if (weight === 0) return;
      tightness.begin(c);
      draw(position, first, end, lines, own, tightness, weight, 2 * Math.PI * p.twist);
    });
    const id = Uint32Array.from(centre, (own) => (own < 0 ? 0 : lines.id[own]));
    const clumped = { ...out, curveData: { ...out.curveData, [STRAND.clump]: id } };
    if (p.alone === 'kept') return clumped;
    const kept = [...centre.keys()].filter((c) => centre[c] >= 0 || (chosen?.(c) ?? 1) === 0);
    if (kept.length === 0)
      context.report({
        code: 'no-clumps',
        severity: 'warning',
        message:
          'No strand belongs to a clump, and strands outside clumps are removed. Increase "Clump reach", or keep them.',
      });
    return kept.length === curveCount(clumped) ? clumped : pickCurves(clumped, kept);
  },
});

/** The lines that clumps gather about, and which of them each strand belongs to. */
function middlesOf(input: CurveSet, drawn: readonly string[], spacing: number, reach: number, context: BuildContext) {
  const sets = drawn
    .flatMap((id) => context.curves.get(id) ?? [])
    .map((points) => catmullRom(points))
    .filter((set) => curveCount(set) > 0);
  if (sets.length === 0) return { lines: input, centre: clumpsOf(input, spacing, reach * spacing) };
  // few lines: each strand looks at all of them
  const steps = Math.max(1, input.start[1] - 1);
  const lines = resample(joinCurves(sets), { steps });
  const centre = Int32Array.from({ length: curveCount(input) }, (_, c) => {
    const i = 3 * input.start[c];
    let best = -1;
    let least = reach * spacing;
    for (let k = 0; k < curveCount(lines); k++) {
      const j = 3 * lines.start[k];
      const far = Math.hypot(
        input.position[i] - lines.position[j],
        input.position[i + 1] - lines.position[j + 1],
        input.position[i + 2] - lines.position[j + 2],
      );
      if (far <= least) [best, least] = [k, far];
    }
    return best;
  });
  return { lines, centre };
}

/** Draws one strand to the middle of its clump, at equal shares of their points, turned about it on the way. */
function draw(
  position: Float64Array,
  first: number,
  end: number,
  { start, position: lines }: CurveSet,
  own: number,
  tightness: StrandLane,
  weight: number,
  twist: number,
): void {
  const [from, to] = [start[own], start[own + 1]];
  const steps = end - first - 1;
  const ownSteps = to - from - 1;
  for (let k = 0; k <= steps; k++) {
    const t = k / steps;
    const at = t * ownSteps;
    const q = Math.min(ownSteps - 1, at | 0);
    const u = at - q;
    const j = 3 * (from + q);
    const i = 3 * (first + k);
    const ex = lines[j + 3] - lines[j];
    const ey = lines[j + 4] - lines[j + 1];
    const ez = lines[j + 5] - lines[j + 2];
    const cx = lines[j] + u * ex;
    const cy = lines[j + 1] + u * ey;
    const cz = lines[j + 2] + u * ez;
    const keep = 1 - weight * tightness.at(t);
    let dx = keep * (position[i] - cx);
    let dy = keep * (position[i + 1] - cy);
    let dz = keep * (position[i + 2] - cz);
    if (twist !== 0) {
      const size = Math.sqrt(ex * ex + ey * ey + ez * ez) || 1;
      const [ax, ay, az] = [ex / size, ey / size, ez / size];
      const [cos, sin] = [Math.cos(twist * t * weight), Math.sin(twist * t * weight)];
      const along = (1 - cos) * (ax * dx + ay * dy + az * dz);
      const [x, y, z] = [dx, dy, dz];
      dx = cos * x + sin * (ay * z - az * y) + along * ax;
      dy = cos * y + sin * (az * x - ax * z) + along * ay;
      dz = cos * z + sin * (ax * y - ay * x) + along * az;
    }
    position[i] = cx + dx;
    position[i + 1] = cy + dy;
    position[i + 2] = cz + dz;
  }
}
