import { joinCurves } from '../../curve/carry.js';
import { catmullRom } from '../../curve/catmull-rom.js';
import { withChordLengths } from '../../curve/chord-lengths.js';
import { allocateCurves, type CurveSet, curveCount } from '../../curve/curve-set.js';
import { resample } from '../../curve/resample.js';
import { STRAND } from '../../curve/strand-data.js';
import { childId, hashText, randomsOf } from '../../numeric/random.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { placeOnSkin } from '../grown/skin.js';
import { shareMade } from '../roots/how-many.js';
import { noCurves } from '../trace.js';
import { ACROSS } from './parameters.js';
import { type Missing, type Sides, sidesOf } from './root-edge.js';
import { Unrolled } from './unrolled.js';

/** Places a shell may have: it is laid flat as a whole. */
const MAX_PLACES = 60_000;
/** Places that a strand is walked in for each point it has: they are then evened out. */
const FINER = 4;

type AcrossChoice = ValuesOf<typeof ACROSS>;

export const across = defineUnit({
  stage: 'path',
  id: 'across',
  label: 'Across shells',
  purpose: 'Strands over guide shapes, from the root edge of each open shell to its far edge.',
  synonyms: ['guide shapes', 'shells', 'hair', 'tubes'],
  sample: { parameters: { shells: ['bar'], strands: 60 }, make: ['strands', { radius: 0.0015 }], bar: 'shell' },
  begins: { make: 'strands', dress: 'hair' },
  parameters: ACROSS,
  presets: [
    { id: 'across', label: 'Across shells', parameters: {} },
    { id: 'across-even', label: 'Even rows', parameters: { spacing: 'even', height: { least: 0, most: 0 } } },
    { id: 'across-loose', label: 'Loose', parameters: { spacing: 'random', height: { least: 0, most: 0.012 } } },
  ],
  describe: ({ shells, strands }) =>
    `${strands.toLocaleString('en')} over each of ${shells.length === 1 ? '1 shell' : `${shells.length} shells`}`,
  build(_input, p, context) {
    if (p.shells.length === 0)
      context.report({
        code: 'no-shells',
        severity: 'error',
        message: 'No shells are chosen. Pick open meshes, such as half of an egg.',
      });
    const lines = p.marked === 'line' ? markingLines(p.roots, context) : undefined;
    const laid = p.shells.flatMap((id, k) => {
      const shell = layShell(id, k, lines, context);
      return shell ? [{ shell, set: settingsOf(p, k), seed: hashText(id) }] : [];
    });
    const sum = (of: (set: Settings) => number) => laid.reduce((total, { set }) => total + of(set), 0);
    const asked = { strands: sum(({ strands }) => strands), points: sum(({ strands, points }) => strands * points) };
    const wanted = shareMade(asked, p.shown, context);
    const all = laid.map(({ shell, set, seed }, k) => {
      context.step(k / laid.length);
      return strandsOver(shell, { ...set, strands: Math.ceil(wanted * set.strands) }, p, seed, set.strands);
    });
    return all.length > 0 ? joinStrands(all) : noCurves();
  },
});

/** Flat xyz along each line that marks a root edge. */
function markingLines(ids: readonly string[], context: BuildContext): Float64Array[] {
  return ids.flatMap((id) => {
    const points = context.curves.get(id);
    const line = points && catmullRom(points);
    return line && curveCount(line) > 0 ? [resample(line, { steps: 24 }).position] : [];
  });
}

const WHY: Record<Missing | 'gone' | 'too-fine', { code: string; say: string }> = {
  gone: { code: 'prop-missing', say: 'is missing. Remove it from the list.' },
  'too-fine': {
    code: 'shell-too-fine',
    say: `has more than ${MAX_PLACES.toLocaleString('en')} vertices. Import a simpler one; strands are just as smooth.`,
  },
  'no-faces': { code: 'no-area', say: 'has no faces. Choose another one.' },
  'no-rim': {
    code: 'shell-closed',
    say: 'is closed and has no rim. Cut it open where strands start, or grow strands on it.',
  },
  'no-mark': {
    code: 'no-root-edge',
    say: 'has no root edge: no drawn line runs beside its rim. Draw one where strands start, or use the upper edge.',
  },
};

interface Shell {
  sides: Sides;
  flat: Unrolled;
}

function layShell(
  id: string,
  k: number,
  lines: readonly Float64Array[] | undefined,
  context: BuildContext,
): Shell | undefined {
  const surface = context.surroundings.shape(id);
  const sides = !surface
    ? 'gone'
    : surface.mesh.position.length / 3 > MAX_PLACES
      ? 'too-fine'
      : sidesOf(surface, lines);
  if (typeof sides !== 'string') return { sides, flat: new Unrolled(sides) };
  const { code, say } = WHY[sides];
  context.report({
    code,
    severity: 'error',
    message: `Shell ${k + 1} ${say}`,
    ...(code === 'no-root-edge'
      ? {
          fix: {
            label: 'Take upper edges',
            kind: 'set' as const,
            stage: 'path' as const,
            parameter: 'marked',
            value: 'upper',
          },
        }
      : {}),
  });
  return undefined;
}

interface Settings {
  strands: number;
  points: number;
  spacing: string;
}

/** What is set for a shell by its number, or for all. */
function settingsOf({ own, strands, points, spacing }: AcrossChoice, k: number): Settings {
  const found = own.find(({ shell }) => shell === k + 1);
  return found
    ? { strands: Number(found['strands']), points: Number(found['points']), spacing: String(found['spacing']) }
    : { strands, points, spacing };
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** Where along the root edge strand `k` of this many begins, 0 … 1. */
function beginOf(spacing: string, k: number, of: number, chance: (id: number) => number): number {
  if (spacing === 'even') return (k + 0.5) / of;
  // each in the widest gap that the others leave, about
  return spacing === 'filled' ? (0.5 + k * GOLDEN) % 1 : chance(k);
}

function strandsOver(
  { sides, flat }: Shell,
  { strands, points, spacing }: Settings,
  p: AcrossChoice,
  shell: number,
  of: number,
): CurveSet {
  const out = allocateCurves(strands, strands * points);
  const normals = new Float32Array(3 * strands);
  const chance = randomsOf(p.seed ^ shell, hashText('root'));
  const lift = randomsOf(p.seed ^ shell, hashText('height'));
  const steps = FINER * (points - 1);
  const fine = new Float64Array(3 * (steps + 1));
  const far = new Float64Array(steps + 1);
  const place = new Float64Array(6);
  const reach = p.to;
  for (let c = 0; c < strands; c++) {
    const x = beginOf(spacing, c, of, chance);
    const height = p.height.least + (p.height.most - p.height.least) * lift(c);
    for (let k = 0; k <= steps; k++) {
      const t = k / steps;
      const y = p.from + (reach - p.from) * t;
      const had = flat.find(x, y);
      if (had || k === 0) placeOnSkin(sides.skin, Math.max(0, flat.triangle), flat.shares[0], flat.shares[1], place);
      if (k === 0) normals.set(place.subarray(3), 3 * c);
      // it leaves the shell at its root and is as high over it as it will be a tenth further on
      const off = height * Math.min(1, 10 * t);
      for (let n = 0; n < 3; n++) fine[3 * k + n] = place[n] + off * place[3 + n];
      far[k] =
        k === 0
          ? 0
          : far[k - 1] +
            Math.hypot(
              fine[3 * k] - fine[3 * k - 3],
              fine[3 * k + 1] - fine[3 * k - 2],
              fine[3 * k + 2] - fine[3 * k - 1],
            );
    }
    evenly(fine, far, out.position.subarray(3 * points * c, 3 * points * (c + 1)));
    out.id[c] = childId(shell, c);
    out.start[c + 1] = points * (c + 1);
  }
  out.curveData[STRAND.rootNormal] = normals;
  return out;
}

/** Writes places evenly spread over the length of a fine line. */
function evenly(fine: Float64Array, far: Float64Array, out: Float64Array): void {
  const last = out.length / 3 - 1;
  const total = far[far.length - 1];
  let q = 0;
  for (let k = 0; k <= last; k++) {
    const wanted = (total * k) / last;
    while (q < far.length - 2 && far[q + 1] < wanted) q++;
    const step = far[q + 1] - far[q];
    const t = step > 0 ? Math.min(1, (wanted - far[q]) / step) : 0;
    for (let n = 0; n < 3; n++) out[3 * k + n] = fine[3 * q + n] + t * (fine[3 * q + 3 + n] - fine[3 * q + n]);
  }
}

/** Strands of all shells in one set. */
const joinStrands = (all: readonly CurveSet[]): CurveSet => withChordLengths(joinCurves(all));
