import { allocateCurves, type CurveSet, POINT } from '../../../curve/curve-set.js';
import { childId, hashText, randomsOf } from '../../../numeric/random.js';
import { cross, normalize, type Vec3, vec3 } from '../../../numeric/vector.js';
import type { StrandsPart } from '../../../unit/carriers.js';
import type { BuildContext } from '../../../unit/unit.js';
import { type Course, eachStrand, type Strands } from '../strands.js';

/** Most stray fibres of a strand on one thickness of the bundle: as many places one may stand at. */
const PLACES = 40;
/** Points of a stray fibre. */
const POINTS = 8;
/** Flyaways are this many times as long as the others. */
const FAR = 3;
/** A strand is seen when it reaches so far out in the bundle. */
const SEEN = 0.8;
/** How thick a stray fibre is, of its strand; and at least, of the bundle. */
const THIN = 0.12;
/** No more than this many are made. */
const MAX_FIBRES = 200_000;

export interface Fuzz {
  fuzz: number;
  fuzzOn: string;
  lifeBy: string;
  fuzzReach: number;
  fuzzLength: number;
  flyaways: number;
  loops: number;
  seed: number;
}

/**
 * Stray fibres that are off the strands, and loops that come back to them. Each has a place of its own on its strand and
 * stands there when its draw is below what is asked: more of them move none of the others.
 */
export function fuzzOf(
  course: Course,
  strands: Strands,
  fuzz: Fuzz,
  { step }: Pick<BuildContext, 'step'>,
): StrandsPart | undefined {
  const roots = rootsOf(course, strands, fuzz, step);
  if (roots.length === 0) return undefined;
  const curves = allocateCurves(roots.length, POINTS * roots.length);
  const width = new Float32Array(POINTS * roots.length);
  roots.forEach((root, n) => {
    curves.start[n + 1] = POINTS * (n + 1);
    curves.id[n] = root.id;
    writeFibre(curves, width, n, root);
  });
  return { kind: 'strands', id: 'fuzz', name: 'Stray fibres', slot: 'fuzz', curves, width, sides: 3 };
}

interface Root {
  id: number;
  at: Vec3;
  out: Vec3;
  on: Vec3;
  aside: Vec3;
  size: number;
  thick: number;
  loop: boolean;
  bend: number;
}

function rootsOf(course: Course, strands: Strands, fuzz: Fuzz, step: BuildContext['step']): Root[] {
  const roots: Root[] = [];
  if (fuzz.fuzz <= 0) return roots;
  const { rails, radius: bundle } = course;
  const { lines, radius } = strands;
  const along = rails.pointData[POINT.along];
  const draw = (name: string) => randomsOf(fuzz.seed, hashText(`fuzz ${name}`));
  const [chance, spot, turn, lean, reach, kind, bend] = ['chance', 'spot', 'turn', 'lean', 'reach', 'kind', 'bend'].map(
    draw,
  );
  eachStrand(course, strands, (strand, _rail, from, to, points) => {
    // very many may be asked for: it can be stopped
    step(0.8 + (0.2 * strand) / lines.closed.length);
    // places are numbered from the start of the strand, so that a fibre keeps its own
    for (let k = 0, passed = 0, next = 0; k + 1 < points; k++) {
      const thickness = 2 * bundle[from + k];
      const long = along[from + k + 1] - along[from + k];
      if (!(thickness > 0) || !(long > 0)) continue;
      const cells = (long / thickness) * PLACES;
      const [first, begun] = [next, passed];
      passed += cells;
      next = Math.max(next, Math.ceil(passed));
      const outer = outwards(rails.position, lines.position, from + k, to + k);
      if (fuzz.fuzzOn === 'outer' && outer.far + radius[to + k] < SEEN * bundle[from + k]) continue;
      for (let cell = first; cell < next; cell++) {
        const id = childId(lines.id[strand], cell);
        if (chance(id) * PLACES >= fuzz.fuzz || roots.length >= MAX_FIBRES) continue;
        const t = Math.min(1, Math.max(0, (cell + spot(id) - begun) / cells));
        const on = normalize(
          vec3(),
          [0, 1, 2].map((n) => lines.position[3 * (to + k) + 3 + n] - lines.position[3 * (to + k) + n]),
        );
        const aside = normalize(vec3(), cross(vec3(), on, outer.out));
        const angle = (turn(id) - 0.5) * (outer.far < 0.1 * bundle[from + k] ? 2 * Math.PI : Math.PI);
        const out = [0, 1, 2].map((n) => Math.cos(angle) * outer.out[n] + Math.sin(angle) * aside[n]) as Vec3;
        const at = [0, 1, 2].map(
          (n) =>
            lines.position[3 * (to + k) + n] * (1 - t) +
            lines.position[3 * (to + k) + 3 + n] * t +
            0.9 * radius[to + k] * out[n],
        ) as Vec3;
        const far = kind(id) < fuzz.flyaways;
        const whole = fuzz.lifeBy === 'length' ? fuzz.fuzzLength : fuzz.fuzzReach * thickness;
        const size = whole * (0.35 + 0.65 * reach(id)) * (far ? FAR : 1);
        const back = lean(id) < 0.5 ? -1 : 1;
        roots.push({
          id,
          at,
          out,
          on: on.map((value) => value * back) as Vec3,
          aside: normalize(vec3(), cross(vec3(), on, out)),
          size,
          thick: Math.min(THIN * radius[to + k], 0.02 * thickness),
          loop: !far && reach(id ^ 0x5bd1) < fuzz.loops,
          bend: 2 * bend(id) - 1,
        });
      }
    }
  });
  return roots;
}

/** From a line to a point of its strand: which way, and how far. */
function outwards(line: Float64Array, strand: Float64Array, p: number, q: number): { out: Vec3; far: number } {
  const out = [0, 1, 2].map((n) => strand[3 * q + n] - line[3 * p + n]) as Vec3;
  const far = Math.hypot(...out);
  return { out: far > 1e-12 ? normalize(out, out) : vec3(0, 1, 0), far };
}

/** A fibre leaves its strand and bends over along it; a loop goes round in an arch. Tips thin out. */
function writeFibre({ position }: CurveSet, width: Float32Array, n: number, root: Root): void {
  for (let k = 0; k < POINTS; k++) {
    const t = k / (POINTS - 1);
    const arch = Math.PI * t;
    const [up, on, aside] = root.loop
      ? [0.45 * Math.sin(arch), 0.28 * (1 - Math.cos(arch)), 0.2 * root.bend * Math.sin(arch) ** 2]
      : [t * (1 - 0.45 * t), 0.75 * t * t, 0.5 * root.bend * t * t];
    const q = POINTS * n + k;
    for (let i = 0; i < 3; i++)
      position[3 * q + i] = root.at[i] + root.size * (up * root.out[i] + on * root.on[i] + aside * root.aside[i]);
    width[q] = 2 * root.thick * (root.loop ? 1 : 1 - 0.8 * t * t);
  }
}
