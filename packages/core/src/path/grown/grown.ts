import { joinCurves } from '../../curve/carry.js';
import { type ControlPoints, catmullRom } from '../../curve/catmull-rom.js';
import { withChordLengths } from '../../curve/chord-lengths.js';
import { allocateCurves, type CurveSet, curveCount } from '../../curve/curve-set.js';
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
import { nearGuides } from './over-skin.js';
import { GROWN } from './parameters.js';
import { Partings } from './partings.js';
import { type Skin, skinOf } from './skin.js';
import { type Growth, growStrands } from './strands.js';

export type GrownChoice = ValuesOf<typeof GROWN>;

export const grown = defineUnit({
  stage: 'path',
  id: 'grown',
  label: 'Grown',
  purpose: 'Strands that grow on a prop: each is mixed from the guides near its root, or stands off the skin.',
  sample: { parameters: { prop: 'bar', count: 900, length: 0.06 }, make: ['strands', {}], bar: true },
  begins: { make: 'strands', dress: 'hair' },
  parameters: GROWN,
  presets: [
    { id: 'grown', label: 'Grown', parameters: {} },
    { id: 'grown-sparse', label: 'Sparse', parameters: { count: 200 } },
  ],
  describe: ({ by, count, density, shown }) =>
    `${by === 'count' ? `${count.toLocaleString('en')} strands` : `${+density.toPrecision(3)} a cm²`}${shown < 1 ? `, ${+(100 * shown).toPrecision(2)} % shown` : ''}`,
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
        message: 'Nothing grows: the region, the picture or what is kept free at edges leaves no place. Move the region or the picture, or lower "Off edges".',
      });
    const skin = skinOf(surface);
    const lines = guideLines(p, context);
    const alone = { length: p.length, upright: p.upright };
    if (!lines) return strandsOf(roots, p.points, skin, alone, context);
    const guides = guidesOn(surface, skin, lines, p.points, context.report);
    const reach = p.reach > 0 ? p.reach : Infinity;
    const partings = new Partings(p.partings.flatMap((id) => context.curves.get(id) ?? []), surface, skin);
    const near = nearGuides(skin, guides.roots, partings, reach, (share) => context.step((1 + share) / 3));
    const growth: Growth = { ...alone, led: { guides, near, partings, reach, leftOut: p.beyond === 'none' } };
    const out = strandsOf(roots, p.points, skin, growth, context);
    if (curveCount(out) === 0 && roots.count > 0)
      context.report({
        code: 'guides-reach-none',
        severity: 'warning',
        message: 'No guide reaches any strand. Widen "Guide reach", or let those out of reach stand alone.',
      });
    if (!p.withGuides) return out;
    // a guide is known by its own number, beside those of the strands
    const own = withChordLengths({ ...guides.curves, id: guides.curves.id.map((id) => childId(2, id)), pointData: {}, curveData: {} });
    own.curveData[STRAND.rootNormal] = Float32Array.from(guides.normal);
    return joinCurves([own, out]);
  },
}); // biome-ignore format: messages and calls in one line each

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
      message: 'The piece whose lines are guides is not there, or needs this one itself. Choose another one.',
    });
  if (other && curveCount(other) > 0) sets.push(other);
  return sets.length > 0 ? joinCurves(sets) : undefined;
}

function strandsOf(roots: Roots, points: number, skin: Skin, growth: Growth, context: BuildContext): CurveSet {
  const { count } = roots;
  let out = allocateCurves(count, points * count);
  const rooted = { normals: new Float32Array(3 * count), faces: new Float32Array(count) };
  const grownCount = growStrands(roots, points, skin, growth, out, rooted, (share) => context.step((2 + share) / 3));
  if (grownCount < count)
    out = {
      ...out,
      start: out.start.slice(0, grownCount + 1),
      position: out.position.slice(0, 3 * points * grownCount),
      closed: out.closed.slice(0, grownCount),
      id: out.id.slice(0, grownCount),
    };
  out.curveData[STRAND.rootNormal] = rooted.normals.slice(0, 3 * grownCount);
  out.curveData[STRAND.rootFace] = rooted.faces.slice(0, grownCount);
  return withChordLengths(out);
} // biome-ignore format: its calls in one line each
