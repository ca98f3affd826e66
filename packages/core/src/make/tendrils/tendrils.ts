import { curveLengths } from '../../curve/arc-length.js';
import { pickCurves } from '../../curve/carry.js';
import { type CurveSet, curveCount, pointCount } from '../../curve/curve-set.js';
import { samplesOf } from '../../curve/resample.js';
import { greatest, isLane, type Lane, valueAt } from '../../numeric/lane.js';
import { pointOf } from '../../numeric/vector.js';
import { roundSection } from '../../section/section.js';
import { capSize, type EndKind } from '../../sweep/caps.js';
import { sweep } from '../../sweep/sweep.js';
import { type MeshPart, madeOf, type SweptBody } from '../../unit/carriers.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { foldFixes } from '../fold-fixes.js';
import { type Limbs, noLimbs } from '../limbs.js';
import { canMerge, mergedPart } from '../one-skin/merged.js';
import { areaTriangles, joinLimbs } from '../one-skin/skin.js';
import { LIMITED } from '../steering.js';
import { runsThrough } from './clear.js';
import { dripRings, dripStations, growDrips } from './drips.js';
import { growLinks, linkStations } from './links.js';
import { MERGED, TENDRILS } from './parameters.js';
import { TENDRIL_PRESETS } from './presets.js';
import { growStrands, keptLines, strandCuts, sunkRoots, type Tendrils } from './strands.js';

/** A vertex with its share of the faces: position, normal, texture coordinate and about two triangles. */
const VERTEX_BYTES = 56;
/** Drips and links of one piece at most. */
const MAX_HANGING = 40_000;
/** What leads both roots of a strand in adds this many rings; a link has about this many. */
const ROOT_RINGS = 8;
const LINK_RINGS = 17;
/** A drip or a link has such a share of the area of its strand, about, and one skin this many vertices a triangle. */
const HANGING_AREA = 0.09;
const VERTICES_A_TRIANGLE = 0.61;

/** Two walls that are not there: strands go from one to the other and back. */
const STRETCHED = {
  anchors: [
    [-0.17, 0.09, 0.05],
    [0.17, 0.1, 0.03],
    [-0.16, 0.05, 0],
    [0.17, 0.06, -0.03],
    [-0.17, 0.1, -0.06],
    [0.16, 0.08, -0.08],
  ].map(([x, y, z], k) => ({ on: 'place' as const, id: `p${k}`, position: [x, y, z] as [number, number, number] })),
  slack: { least: 0.05, most: 0.12 },
};

export const tendrils = defineUnit({
  stage: 'make',
  id: 'tendrils',
  label: 'Tendrils',
  purpose: 'Strands that thin from thick roots, with hanging drips and links; separate, or merged into one surface.',
  synonyms: ['slime', 'drips', 'goo', 'roots', 'vine', 'web', 'organic', 'growth', 'kelp', 'tentacle', 'branches'],
  shelf: 'swept',
  outfits: [
    {
      id: 'growth',
      label: 'Growth',
      wears: {
        main: { unit: 'plain', preset: 'green-paint' },
        drips: { unit: 'plain', preset: 'lamp' },
        links: { unit: 'plain', preset: 'linen' },
      },
    },
    {
      id: 'cords',
      label: 'Cords',
      wears: { main: { unit: 'plain', preset: 'linen' }, links: { unit: 'plain', preset: 'brass' } },
    },
    { id: 'tar', label: 'Tar', wears: { main: { unit: 'plain', preset: 'rubber' } } },
  ],
  parameters: TENDRILS,
  slots: [
    { id: 'drips', label: 'Drips' },
    { id: 'links', label: 'Links' },
  ],
  needsLevelSets: ({ skin }) => skin === MERGED,
  sample: { path: ['strung', STRETCHED] },
  presets: TENDRIL_PRESETS,
  cost(input, p, { density }) {
    const size = greatest(p.radius);
    const lines = keptLines(input, p);
    const capped = asManyAsCanHang(p, curveCount(lines));
    const hanging = [dripStations, linkStations].map((stations) => stations({ curves: lines }, capped).length);
    if (p.skin === MERGED) {
      const each = curveCount(lines) > 0 ? (hanging[0] + hanging[1]) / curveCount(lines) : 0;
      const triangles =
        areaTriangles(strandArea(lines, p, size), (p.cell * size) / density) * (1 + HANGING_AREA * each);
      return { vertices: VERTICES_A_TRIANGLE * triangles, bytes: VERTEX_BYTES * VERTICES_A_TRIANGLE * triangles };
    }
    const section = roundSection(sidesOf(p, density));
    const caps = (kind: EndKind) => capSize(section, kind).vertices;
    const rings = samplesOf(lines, strandCuts(lines, p, size, density)) + ROOT_RINGS * curveCount(lines);
    const vertices =
      (rings + hanging[0] * dripRings(density) + hanging[1] * LINK_RINGS * density) * section.x.length +
      2 * caps('round') * curveCount(lines) +
      hanging[0] * (caps('flat') + caps('round')) +
      2 * hanging[1] * caps('flat');
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  // its round skin is never creased: what it may be is thinner
  fixes: (finding, { radius }, length) => foldFixes(finding, radius, LIMITED, length),
  thickness: reachAlong,
  describe: ({ radius, skin }, length) =>
    `⌀ ${isLane(radius) ? 'up to ' : ''}${length(2 * greatest(radius))}${skin === MERGED ? ', merged' : ''}`,
  build(input, p, context) {
    const size = greatest(p.radius);
    const { density } = context;
    const lines = keptLines(input, p);
    if (curveCount(lines) === 0 && curveCount(input) > 0)
      context.report({
        code: 'all-left-out',
        severity: 'warning',
        message: 'All strands are removed. Lower "Random removal".',
        fix: { label: 'Keep all strands', kind: 'set', stage: 'make', parameter: 'leftOut', value: 0 },
      });
    const strands = clearOf(growStrands(lines, p, size, density), p, context);
    const grown = grow(strands, p, size, context);
    const shown = Object.fromEntries(
      Object.entries(grown).map(([kind, limbs]) => [kind, p.shows === 'all' || p.shows === kind ? limbs : noLimbs()]),
    ) as Grown;
    const merges = p.skin === MERGED && canMerge(context);
    return madeOf(strands.curves, {
      parts: merges
        ? mergedPart(allOf(shown), { cell: p.cell, blend: p.blend, unit: size }, context)
        : ownSkins(shown, sidesOf(p, density)),
      bodies: [bodyOf(strands, p)],
      measures: [
        { id: 'drips', label: 'Drips', quantity: 'count', value: curveCount(grown.drips.curves) },
        { id: 'links', label: 'Links', quantity: 'count', value: curveCount(grown.links.curves) },
      ],
    });
  },
});

/** Area of all strands, m²: their thickness from root to middle, on the average. */
function strandArea(lines: CurveSet, { root, thinning }: Tendrils, size: number): number {
  const open = 1 + (root - 1) / (thinning + 1);
  return curveLengths(lines).reduce((sum, one, c) => sum + 2 * Math.PI * size * (lines.closed[c] ? 1 : open) * one, 0);
}

/** Places along a strand at which it is said how thick it is. */
const SAID_AT = [0, 0.01, 0.03, 0.06, 0.12, 0.2, 0.3, 0.5, 0.7, 0.8, 0.88, 0.94, 1];

/** How far a strand reaches from its line: its thickness with its lumps, and where it is not held how far it strays. */
function reachAlong({ radius, root, thinning, lumps, noise }: Tendrils): Lane {
  return {
    ease: 'straight',
    knots: SAID_AT.map((at) => {
      const thick = 1 + (root - 1) * Math.abs(2 * at - 1) ** thinning;
      const free = at === 0 || at === 1 ? 0 : 1;
      return { at, value: valueAt(radius, at) * (thick * (1 + free * lumps) + free * noise) };
    }),
  };
}

interface Grown {
  strands: Limbs;
  drips: Limbs;
  links: Limbs;
}

/** The same, with no more drips and links on each strand than can be made in all. */
function asManyAsCanHang(p: Tendrils, strands: number): Tendrils {
  const share = Math.min(1, MAX_HANGING / Math.max(1, (p.drips + p.links) * strands));
  return share === 1 ? p : { ...p, drips: Math.floor(share * p.drips), links: Math.floor(share * p.links) };
}

function grow(strands: Limbs, p: Tendrils, size: number, context: BuildContext): Grown {
  const { density, surroundings, report } = context;
  const asked = (p.drips + p.links) * curveCount(strands.curves);
  if (asked > MAX_HANGING)
    report({
      code: 'too-many-hanging',
      severity: 'warning',
      message: `Up to ${asked.toLocaleString('en')} drips and links are requested (limit ${MAX_HANGING.toLocaleString('en')}): fewer are made. Reduce their counts, or the number of strands.`,
      size: { value: asked, limit: MAX_HANGING, kind: 'count' },
    });
  const fewer = asManyAsCanHang(p, curveCount(strands.curves));
  return {
    strands: sunkRoots(strands, p.sunk, surroundings),
    drips: growDrips(strands, fewer, size, density, surroundings),
    links: growLinks(strands, fewer, size, density, surroundings),
  };
}

/** The strands that run through no prop, but for their roots. */
function clearOf(strands: Limbs, { through }: Tendrils, { surroundings, report }: BuildContext): Limbs {
  const { curves, radius } = strands;
  if (through === 'kept' || surroundings.isEmpty) return strands;
  const kept: number[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const [first, end] = [curves.start[c], curves.start[c + 1]];
    const points = Array.from({ length: end - first }, (_, k) => pointOf(curves.position, first + k));
    if (!runsThrough(points, [2 * radius[first], 2 * radius[end - 1]], surroundings)) kept.push(c);
  }
  const count = curveCount(curves);
  if (kept.length === count) return strands;
  if (kept.length === 0)
    report({
      code: 'none-clear',
      severity: 'warning',
      message: `${count === 1 ? 'The strand runs' : `All ${count.toLocaleString('en')} strands run`} through a prop and ${count === 1 ? 'is' : 'are'} removed. Move the line, or keep strands that run through props.`,
      fix: { label: 'Keep them', kind: 'set', stage: 'make', parameter: 'through', value: 'kept' },
    });
  const thick = kept.flatMap((c) => [...radius.subarray(curves.start[c], curves.start[c + 1])]);
  return { curves: pickCurves(curves, kept), radius: Float32Array.from(thick) };
}

const sidesOf = ({ sides }: Tendrils, density: number): number =>
  density === 1 ? sides : Math.max(3, 2 * Math.round((sides * density) / 2));

/** Each limb in a skin of its own, one part a kind. Roots and free ends are round, what grows from a strand begins in it. */
function ownSkins({ strands, drips, links }: Grown, sides: number): MeshPart[] {
  const section = roundSection(sides);
  const part = (
    id: string,
    name: string,
    slot: string,
    { curves, radius }: Limbs,
    start: EndKind,
    end: EndKind,
  ): MeshPart[] =>
    pointCount(curves) === 0
      ? []
      : [{ kind: 'mesh', id, name, slot, mesh: sweep(curves, section, { radius, start, end }) }];
  return [
    ...part('strands', 'Strands', 'main', strands, 'round', 'round'),
    ...part('drips', 'Drips', 'drips', drips, 'flat', 'round'),
    ...part('links', 'Links', 'links', links, 'flat', 'flat'),
  ];
}

const allOf = ({ strands, drips, links }: Grown): Limbs =>
  joinLimbs([strands, drips, links].filter(({ curves }) => pointCount(curves) > 0));

/** What the checks look at: the strands themselves. They grow out of one another: where two meet nothing is cut. */
const bodyOf = ({ curves, radius }: Limbs, { leastBend }: Tendrils): SweptBody => ({
  id: 'strands',
  curves,
  section: { radius, least: 1 },
  leastBend,
  growsTogether: true,
});
