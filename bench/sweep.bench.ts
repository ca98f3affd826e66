import {
  type CurveSet,
  newUse,
  pointCount,
  realMesh,
  resample,
  rotationMinimizingFrames,
  roundSection,
  singleCurve,
  sweep,
  unitOf,
  vertexCount,
} from '@kelp/core';
import { CatmullRomCurve3, ExtrudeGeometry, Shape, TubeGeometry, Vector2, Vector3 } from 'three';
import { allocateCurves } from '../packages/core/src/curve/curve-set.js';
import { formSection } from '../packages/core/src/section/forms.js';
import { bareContext } from './context.js';
import { fastest, fastestPair, type Result } from './measure.js';

const SIDES = 24;

/** A wavy line of `rings` points, the same for both sides of a comparison. */
function line(rings: number): { curve: CurveSet; points: Vector3[] } {
  const points = Array.from(
    { length: rings },
    (_, i) => new Vector3(i * 0.02, 0.1 * Math.sin(i * 0.05), 0.1 * Math.cos(i * 0.031)),
  );
  // cut as every recipe cuts its line, so that its lengths are known
  const curve = resample(singleCurve(points.flatMap((point) => point.toArray())), { steps: rings - 1 });
  return { curve, points };
}

/** The general library's curve through every 20th of the points, measured as finely as the rings stand: then its rings are as even as ours. */
function generalPath(points: Vector3[], rings: number): CatmullRomCurve3 {
  const path = new CatmullRomCurve3(points.filter((_, i) => i % 20 === 0));
  path.arcLengthDivisions = rings;
  return path;
}

/** The sweep, per vertex with normals, texture coordinates and index, frames included. */
export function sweepBench(): Result[] {
  const rings = 2000;
  const { curve, points } = line(rings);
  const section = roundSection(SIDES);
  const path = generalPath(points, rings);
  // the same rings and sides, so the same vertices
  // both measured as they work while an artist drags: ours over the buffers of its last result, which the general one cannot
  const into = sweep(curve, section, { radius: 0.01, start: 'open', end: 'open' });
  const ours = () => sweep(curve, section, { radius: 0.01, start: 'open', end: 'open', into });
  const theirs = () => new TubeGeometry(path, rings - 1, 0.01, SIDES, false);
  if (vertexCount(ours()) !== theirs().attributes['position'].count)
    throw new Error('The two sides make different things');
  const [ourTime, theirTime] = fastestPair(ours, theirs, 30);
  // the limit of memory: fresh arrays on both sides
  const { position, normal, uv, index } = into;
  const copy = () => [position.slice(), normal.slice(), uv.slice(), index.slice()];
  const fresh = () => sweep(curve, section, { radius: 0.01, start: 'open', end: 'open' });
  const [sweeping, copying] = fastestPair(fresh, copy, 40);
  return [
    {
      name: 'sweep: times as fast per vertex as three’s TubeGeometry',
      value: theirTime / ourTime,
      goal: 40,
      better: 'more',
    },
    { name: 'sweep: time over copying the same bytes', value: sweeping / copying, goal: 5, better: 'less' },
  ];
}

/**
 * A section with inner corners against the general library's extrusion along a path: by face, since that one writes the
 * corners of each face anew.
 */
export function profileBench(): Result[] {
  const rings = 1000;
  const { curve, points } = line(rings);
  const section = formSection('channel', { width: 1.3, sides: 32, points: 6, wall: 0.2, depth: 0.3, rounding: 0.4 });
  const path = generalPath(points, rings);
  const shape = new Shape(Array.from(section.rim, (k) => new Vector2(0.01 * section.x[k], 0.01 * section.y[k])));
  const into = sweep(curve, section, { radius: 0.01, start: 'open', end: 'open' });
  const ours = () => sweep(curve, section, { radius: 0.01, start: 'open', end: 'open', into });
  const theirs = () => new ExtrudeGeometry(shape, { steps: rings - 1, extrudePath: path, bevelEnabled: false });
  const [ourTime, theirTime] = fastestPair(ours, theirs, 12);
  const perFace = theirTime / (theirs().attributes['position'].count / 3) / (ourTime / (into.index.length / 3));
  return [
    {
      name: 'a channel: times as fast per face as three’s ExtrudeGeometry',
      value: perFace,
      goal: 20,
      better: 'more',
    },
  ];
}

/** Very many ribbons, whole: from their lines to position, normal, texture and index, over copying those. */
export function ribbonBench(): Result[] {
  const count = 10_000;
  const lines = allocateCurves(count, 5 * count);
  for (let c = 0; c < count; c++) {
    lines.start[c + 1] = 5 * (c + 1);
    lines.id[c] = c + 1;
    for (let k = 0; k < 5; k++)
      lines.position.set([c % 100, 0.25 * k, Math.floor(c / 100) + 0.01 * k * k], 15 * c + 3 * k);
  }
  const unit = unitOf('make', 'ribbon');
  const parameters = { ...newUse('make', 'ribbon').parameters, cuts: 15.5, sides: 'top', across: 1 };
  const build = () => realMesh(unit.build(lines, parameters, bareContext(0.01)).parts[0]);
  const { position, normal, uv, index } = build();
  if (index.length !== count * 16 * 6) throw new Error(`${index.length / 6} faces are not 16 each`);
  const copy = () => [position.slice(), normal.slice(), uv.slice(), index.slice()];
  const [building, copying] = fastestPair(build, copy, 40);
  return [
    {
      name: `10,000 ribbons of 16 divisions (${building.toFixed(0)} ms) over copying their bytes`,
      value: building / copying,
      goal: 6,
      better: 'less',
    },
  ];
}

export function framesBench(): Result[] {
  const rings = 2000;
  const { curve, points } = line(rings);
  const path = generalPath(points, rings);
  const general = () => path.computeFrenetFrames(rings - 1, false);
  const [ours, theirs] = fastestPair(() => rotationMinimizingFrames(curve), general, 30);
  return [
    { name: 'frames: times as fast as three’s computeFrenetFrames', value: theirs / ours, goal: 10, better: 'more' },
  ];
}

/** Time a vertex at 100 times the length: nothing in the pipeline may grow faster than the line. */
export function scalingBench(): Result[] {
  const section = roundSection(SIDES);
  const perVertex = (rings: number): number => {
    const { curve } = line(rings);
    const cut = () => resample(curve, { spacing: 0.02 });
    const into = sweep(cut(), section, { radius: 0.01 });
    const work = () => sweep(cut(), section, { radius: 0.01, into });
    return fastest(work, rings > 10_000 ? 6 : 40) / (pointCount(cut()) * (SIDES + 1));
  };
  return [
    {
      name: 'time per vertex at 100 times the length',
      value: perVertex(200_000) / perVertex(2000),
      goal: 1.25,
      better: 'less',
    },
  ];
}
