import { joinCurves } from '../../curve/carry.js';
import { type ControlPoints, catmullRom } from '../../curve/catmull-rom.js';
import { withChordLengths } from '../../curve/chord-lengths.js';
import { allocateCurves, CURVE, type CurveSet, curveCount, POINT } from '../../curve/curve-set.js';
import { STRAND } from '../../curve/strand-data.js';
import { childId } from '../../numeric/random.js';
import { propSpace } from '../../surface/prop-space.js';
import type { ValuesOf } from '../../unit/parameters.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { pathProp } from '../prop-surface.js';
import { shareMade } from '../roots/how-many.js';
import { type Roots, spreadRoots } from '../roots/spread-roots.js';
import { keeper, standingRoom } from '../roots/where.js';
import { noCurves } from '../trace.js';
import { guidesOn } from './guides.js';
import { type Growth, GuidedSkin } from './over-skin.js';
import { GROWN } from './parameters.js';
import { Partings } from './partings.js';
import { skinOf } from './skin.js';

export type GrownChoice = ValuesOf<typeof GROWN>;

export const grown = defineUnit({
  stage: 'path',
  id: 'grown',
  label: 'Grown',
  purpose: 'Strands that grow on a prop, interpolated from nearby guides or straight off the skin.',
  synonyms: ['hair', 'fur', 'grass', 'scatter', 'groom', 'roots'],
  sample: { parameters: { prop: 'bar', count: 900, length: 0.06 }, make: ['strands', {}], bar: true },
  begins: { make: 'strands', dress: 'hair' },
  parameters: GROWN,
  presets: [
    { id: 'grown', label: 'Grown', parameters: {} },
    { id: 'grown-sparse', label: 'Sparse', parameters: { count: 200 } },
    { id: 'grown-upright', label: 'Straight up', parameters: { upright: 1, evenness: 0.4 } },
  ],
  describe: ({ by, count, density, shown }) =>
    `${by === 'count' ? `${count.toLocaleString('en')} strands` : `${+density.toPrecision(3)} per cm²`}${shown < 1 ? `, ${+(100 * shown).toPrecision(2)} % shown` : ''}`,
  build(_input, p, context) {
    const surface = pathProp(p.prop, context);
    if (!surface) return noCurves();
    const picker = standingRoom(surface, p, context);
    if (!picker) return noCurves();
    const area = picker.area * propSpace(surface).scale ** 2;
    const count = countOf(p, area, context);
    const keeps = p.edges > 0 || p.region || p.picture ? keeper(surface, p, context) : undefined;
    const roots = spreadRoots(picker, count, p.seed, p.evenness, keeps, p.by === 'count', (share) =>
      context.step(share / 3),
    );
    if (roots.count === 0 && count > 0)
      context.report({
        code: 'no-places',
        severity: 'warning',
        message:
          'Nothing grows: the region, the mask or the edge margin excludes the whole surface. Move the region or the mask, or lower "Edge margin".',
      });
    const skin = skinOf(surface);
    const lines = guideLines(p, context);
    const guides = lines && guidesOn(surface, skin, lines, p.points, context.report);
    const partings = new Partings(lines ? p.partings.flatMap((id) => context.curves.get(id) ?? []) : [], surface, skin);
    const growth: Growth = {
      length: p.length,
      upright: p.upright,
      reach: p.reach > 0 ? p.reach : Infinity,
      leftOut: guides !== undefined && p.beyond === 'none',
    };
    const led = new GuidedSkin(skin, guides, partings, p.points);
    led.walk(growth.reach, (share) => context.step((1 + share) / 3));
    const out = strandsOf(roots, p.points, led, growth, context);
    if (curveCount(out) === 0 && roots.count > 0)
      context.report({
        code: 'guides-reach-none',
        severity: 'warning',
        message: 'No guide reaches any strand. Increase "Guide reach", or grow strands beyond reach straight.',
      });
    if (!guides || !p.withGuides) return out;
    // a guide is known by its own number, beside those of the strands
    const own = withChordLengths({
      ...guides.curves,
      id: guides.curves.id.map((id) => childId(2, id)),
      pointData: {},
      curveData: {},
    });
    own.curveData[STRAND.rootNormal] = Float32Array.from(guides.normal);
    return joinCurves([own, out]);
  },
});

/** How many strands are made of those that are asked for. */
function countOf(p: GrownChoice, area: number, context: BuildContext): number {
  const strands = Math.round(p.by === 'count' ? p.count : p.density * area * 1e4);
  return Math.ceil(strands * shareMade({ strands, points: strands * p.points }, p.shown, context) - 1e-9);
}

/** All lines that lead: drawn ones and those of another piece. Undefined where none is named. */
function guideLines({ guides, guidePiece }: GrownChoice, context: BuildContext): CurveSet | undefined {
  const sets = guides
    .flatMap((id) => context.curves.get(id) ?? [])
    .map((points: ControlPoints) => catmullRom(points))
    .filter((set) => curveCount(set) > 0);
  const other = guidePiece ? context.piece(guidePiece)?.line : undefined;
  if (guidePiece && !other)
    context.report({
      code: 'piece-missing',
      severity: 'error',
      message: 'The guide piece is missing, or depends on this one. Choose another one.',
    });
  if (other && curveCount(other) > 0) sets.push(other);
  return sets.length > 0 ? joinCurves(sets) : undefined;
}

function strandsOf(roots: Roots, points: number, led: GuidedSkin, growth: Growth, context: BuildContext): CurveSet {
  const out = allocateCurves(roots.count, points * roots.count, [POINT.along]);
  const normal = new Float32Array(3 * roots.count);
  const face = new Float32Array(roots.count);
  const length = new Float32Array(roots.count);
  let made = 0;
  led.grow(roots, growth, (portion, done) => {
    out.position.set(portion.position, 3 * points * made);
    out.pointData[POINT.along].set(portion.along, points * made);
    normal.set(portion.normal, 3 * made);
    length.set(portion.length, made);
    for (const c of portion.which) {
      face[made] = roots.triangle[c];
      out.id[made] = childId(1, roots.number[c]);
      out.start[++made] = points * made;
    }
    context.step((2 + done / roots.count) / 3);
  });
  return {
    start: out.start.slice(0, made + 1),
    position: cut(out.position, 3 * points * made),
    closed: out.closed.slice(0, made),
    id: out.id.slice(0, made),
    pointData: { [POINT.along]: cut(out.pointData[POINT.along], points * made) },
    curveData: {
      [CURVE.length]: cut(length, made),
      [STRAND.rootNormal]: cut(normal, 3 * made),
      [STRAND.rootFace]: cut(face, made),
    },
  };
}

/** What is whole is not copied. */
const cut = <T extends Float32Array | Float64Array>(all: T, size: number): T =>
  (all.length === size ? all : all.slice(0, size)) as T;
