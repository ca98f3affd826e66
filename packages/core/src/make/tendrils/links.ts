import { curveLengths } from '../../curve/arc-length.js';
import { curveCount, POINT } from '../../curve/curve-set.js';
import { SegmentGrid } from '../../curve/segment-grid.js';
import { pairAt } from '../../numeric/pair.js';
import { childId, hashText, randomAt, randomsOf } from '../../numeric/random.js';
import { distance, pointOf, type Vec3 } from '../../numeric/vector.js';
import { MAX_STEPS, spanBetween, writeSpan } from '../../path/strung/hanging.js';
import type { Surroundings } from '../../surface/surroundings.js';
import { type Limb, type Limbs, limbsOf, placeOn, type Station, stationsOn } from '../limbs.js';
import { runsThrough } from './clear.js';
import type { Tendrils } from './strands.js';
import { Stray } from './stray.js';

const FIRST = hashText('link');
const OTHER = hashText('link to');
const UP: Vec3 = [0, 1, 0];
/** A link between two places of one strand goes over such shares of it. */
const OVER = [0.12, 0.4] as const;
/** Places of strands that are looked at for all links together, at most. */
const MAX_CHECKS = 100_000_000;
/** A link is this much thinner than what it grows from there. */
const ROOT = 0.8;

/** Where links begin. */
export const linkStations = (strands: Pick<Limbs, 'curves'>, { links, seed }: Tendrils): Station[] =>
  stationsOn(strands, links, randomsOf(seed, FIRST), (line, k) => childId(line ^ FIRST, k));

/** Thinner strands that hang below, each between a strand and a neighbour, or two places of one. */
export function growLinks(
  strands: Limbs,
  p: Tendrils,
  size: number,
  density: number,
  surroundings: Surroundings,
): Limbs {
  const stations = linkStations(strands, p);
  const neighbours = new Neighbours(strands, p.linkReach * size, stations.length);
  const stray = new Stray({ amount: 0.5 * p.noise * size, wave: p.wave * size, lumps: p.lumps, seed: p.seed });
  const scratch = new Float64Array(3 * (MAX_STEPS + 1));
  const all: Limb[] = [];
  for (const station of stations) {
    const from = placeOn(strands, station.strand, station.t);
    const to = neighbours.of(station, from.at, p.seed) ?? further(strands, station, p.seed);
    const slack = pairAt(p.linkSlack, p.seed, station.id, 'link slack');
    if (!(distance(from.at, to.at) > from.radius + to.radius)) continue;
    const span = spanBetween(from.at, to.at, UP, { by: 'slack', slack });
    span.steps = Math.min(MAX_STEPS, Math.max(4, Math.round(1.5 * span.steps * density)));
    writeSpan(span, UP, scratch, 0);
    const length = distance(from.at, to.at) * (1 + slack);
    stray.onLine(station.id, length);
    const points: Vec3[] = [];
    const radius: number[] = [];
    for (let k = 0; k <= span.steps; k++) {
      const t = k / span.steps;
      const at = pointOf(scratch, k);
      stray.move(at, t * length, Math.sin(Math.PI * t));
      points.push(at);
      const root = ROOT * (t < 0.5 ? from.radius : to.radius);
      const middle = p.linkWidth * size;
      radius.push(
        (middle + Math.max(0, root - middle) * Math.abs(2 * t - 1) ** (2 * p.thinning)) * stray.lump(t * length),
      );
    }
    if (p.through === 'kept' || !runsThrough(points, [from.radius, to.radius], surroundings))
      all.push({ id: station.id, points, radius });
  }
  return limbsOf(all);
}

/** Another place of the same strand. */
function further(strands: Limbs, { strand, t, id }: Station, seed: number): { at: Vec3; radius: number } {
  const over = OVER[0] + (OVER[1] - OVER[0]) * randomAt(seed, id, OTHER);
  return placeOn(strands, strand, t < 0.5 ? t + over : t - over);
}

/** Which strands are near a place. */
class Neighbours {
  private readonly grid: SegmentGrid | undefined;
  /** Points that are looked at, and whose they are. */
  private readonly point: Uint32Array;
  private readonly line: Uint32Array;

  constructor(
    private readonly strands: Limbs,
    reach: number,
    links: number,
  ) {
    const { curves } = strands;
    const points = curves.position.length / 3;
    // where all is in reach of all, not every place of a strand is looked at
    const every = Math.max(1, Math.ceil((points * links) / MAX_CHECKS));
    this.point = Uint32Array.from({ length: Math.ceil(points / every) }, (_, k) => k * every);
    this.line = new Uint32Array(points);
    for (let c = 0; c < curveCount(curves); c++) this.line.fill(c, curves.start[c], curves.start[c + 1]);
    const middle = Float64Array.from(
      { length: 3 * this.point.length },
      (_, i) => curves.position[3 * this.point[Math.floor(i / 3)] + (i % 3)],
    );
    if (reach > 0 && curveCount(curves) > 1) this.grid = new SegmentGrid(middle, reach);
  }

  /** The nearest place of one of the strands in reach, drawn by the ids of both: others near it do not change that. */
  of({ strand, id }: Station, [x, y, z]: Vec3, seed: number): { at: Vec3; radius: number } | undefined {
    const { curves } = this.strands;
    const nearest = new Map<number, { far: number; point: number }>();
    this.grid?.near(-1, x, y, z, (k) => {
      const point = this.point[k];
      const other = this.line[point];
      if (other === strand) return;
      const far =
        (curves.position[3 * point] - x) ** 2 +
        (curves.position[3 * point + 1] - y) ** 2 +
        (curves.position[3 * point + 2] - z) ** 2;
      const before = nearest.get(other);
      if (!before || far < before.far) nearest.set(other, { far, point });
    });
    let best: { draw: number; other: number; point: number } | undefined;
    for (const [other, { point }] of nearest) {
      const draw = randomAt(seed, childId(id, curves.id[other]), OTHER);
      if (!best || draw < best.draw) best = { draw, other, point };
    }
    if (!best) return undefined;
    // where it grows out is no place to be linked to
    const t = curves.pointData[POINT.along][best.point] / (curveLengths(curves)[best.other] || 1);
    return placeOn(this.strands, best.other, Math.min(0.85, Math.max(0.15, t)));
  }
}
